import { useQuery } from '@tanstack/react-query'
import { useCallback, useContext } from 'react'
import { useNavigate, useParams } from 'react-router'
import { queries } from '../api/client'
import type { Catalogue, QuestionRow, Station } from '../api/types'
import { BuildContextHome } from './buildContext'
import { visited } from './looked'

/** Whether a question asks for an address: in its ledger, its lists or its castings. */
function asksFor(question: QuestionRow, address: string): boolean {
  const within = (key: string) => address === key || address.startsWith(`${key}.`)
  return question.ledger.some((l) => l.key === address) || question.options.includes(address) || question.lists.some(within) || question.faces.some(within)
}

/** Where an address is asked for: of the questions that are `asked` of the build the one at `station`, else at its own station; a ledger before lists. */
export function questionOf(catalogue: Catalogue, address: string, station?: Station, asked?: readonly string[]): QuestionRow | undefined {
  const home = catalogue.dimensions.find((d) => d.key === address)?.station
  const all = catalogue.questions.filter((q) => asksFor(q, address))
  const open = asked === undefined ? all : all.filter((q) => asked.includes(q.key))
  const able = open.length > 0 ? open : all
  return able.find((q) => q.station === station) ?? able.find((q) => q.station === home) ?? able[0]
}

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
