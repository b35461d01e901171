import { useQuery } from '@tanstack/react-query'
import Button from '@mui/material/Button'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ApiProblem, queries } from '../api/client'
import { HistoryList } from './HistoryList'

/** A build that does not open: why, and the ways on. Its document, pictures and history are there; its last change can be taken back. */
export function Unopened({ id, error, again }: { id: string; error: Error; again: () => void }) {
  const now = useQuery(queries.now(id, true))
  const [wrong, setWrong] = useState('')
  const last = now.data
  const there = last !== undefined
  const takeBack = async () => {
    if (last === undefined) return
    setWrong('')
    try {
      await api.step(id, last.tag, 'undo', undefined, { shown: '', question: '' })
      again()
    } catch (refusal) {
      const theirs = refusal instanceof ApiProblem ? refusal.problem.change : undefined
      try {
        if (theirs === undefined) throw refusal
        await api.step(id, last.tag, 'undo', theirs.version, { shown: '', question: '' })
        again()
      } catch (second) {
        setWrong(second instanceof Error ? second.message : String(second))
      }
    }
  }
  return (
    <>
      <h1>This build cannot be opened</h1>
      <p role="alert">{error.message}</p>
      {there && <p>Nothing of it is lost: what was stored can be taken away as a file, and the last change can be taken back.</p>}
      {wrong && <p role="alert">{wrong}</p>}
      <div className="actions">
        <Button variant="contained" onClick={again}>
          Try again
        </Button>
        {there && last.version > 1 && (
          <Button variant="outlined" onClick={() => void takeBack()}>
            Undo the last change
          </Button>
        )}
        {there && (
          <>
            <Button variant="outlined" href={`/api/builds/${id}/bundle`} download>
              Export all of it
            </Button>
            <Button variant="outlined" href={`/api/builds/${id}/build.json`} download>
              Export the document
            </Button>
          </>
        )}
        <Link to="/">All builds</Link>
      </div>
      {there && (
        <section className="history" aria-label="History">
          <h2>History</h2>
          <HistoryList id={id} tag={last.tag} />
        </section>
      )}
    </>
  )
}
