import { useQuery } from '@tanstack/react-query'
import { useCallback, useContext } from 'react'
import { useNavigate, useParams } from 'react-router'
import { queries } from '../api/client'
import type { Station } from '../api/types'
import { BuildContextHome } from './buildContext'
import { visited } from './looked'
import { questionOf } from './questionOf'

const PATIENCE_MS = 5000

/** The field of a size, a choice, the cell of a row or the number of the row, by its address. */
function fieldOf(address: string): HTMLElement | null {
  const cell = address.replaceAll('.', '-')
  return document.getElementById(`figure-${address}`) ?? document.getElementById(`options-${address}`) ?? document.getElementById(cell) ?? document.getElementById(`${cell}-n`)
}

/** Brings the field of an address into sight and the hands to it, once its station is on the screen. */
export function focusField(address: string, station: Station): void {
  const until = performance.now() + PATIENCE_MS
  const look = () => {
    // Another station may have the same line: only the one that was asked for counts.
    const field = document.querySelector(`main[aria-label="${station} station"]`) === null ? null : fieldOf(address)
    field?.scrollIntoView({ block: 'center' })
    field?.focus({ preventScroll: true })
    if (field === null && performance.now() < until) requestAnimationFrame(look)
  }
  requestAnimationFrame(look)
}

/** Goes to a station, and to one of its questions by key. */
export function useGo(): (to: Station, question?: string) => void {
  const { id = '' } = useParams()
  const navigate = useNavigate()
  const questions = useQuery(queries.catalogue()).data?.questions
  return useCallback(
    (to, wanted) => {
      const found = questions?.find((q) => q.key === wanted)
      void navigate(`/build/${id}/${to}${found ? `/${found.path}` : ''}`)
    },
    [id, navigate, questions],
  )
}

/** Goes to where an address is asked for, lights it and puts the hands on it; `look` leaves the hands where they are. */
export function useVisit(): (address: string, station?: Station, look?: 'look') => void {
  const catalogue = useQuery(queries.catalogue()).data
  const asked = useContext(BuildContextHome)?.assessment.asked
  const go = useGo()
  return useCallback(
    (address, station, look) => {
      const question = catalogue && questionOf(catalogue, address, station, asked)
      const to = question?.station ?? station
      if (to === undefined) return
      visited(address)
      go(to, question?.key)
      if (look === undefined) focusField(address, to)
    },
    [catalogue, asked, go],
  )
}
