import Button from '@mui/material/Button'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, queries } from '../api/client'
import type { Looked } from '../api/types'
import { when } from '../shell/when'
import './builds.css'

const size = (bytes: number) => (bytes < 1e6 ? `${Math.round(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`)
const found = (looked: Looked) => (looked.problems.length === 0 ? `sound, ${looked.builds} builds` : looked.problems.join('; '))

/** The data as a whole: copies that were made by themselves, a look through them, and putting one back. */
export function DataPanel() {
  const data = useQuery(queries.data())
  const client = useQueryClient()
  const [said, say] = useState<Readonly<Record<string, string>>>({})
  const [wanted, setWanted] = useState<string | File>('')
  const [busy, setBusy] = useState(false)
  const [told, tell] = useState({ text: '', wrong: false })
  const work = async (what: () => Promise<string | null>) => {
    setBusy(true)
    try {
      const text = await what()
      if (text !== null) tell({ text, wrong: false })
    } catch (error) {
      tell({ text: error instanceof Error ? error.message : String(error), wrong: true })
    }
    setBusy(false)
    await client.invalidateQueries()
  }
  const check = (name: string) =>
    work(async () => {
      const looked = await api.check(name)
      say((now) => ({ ...now, [name]: found(looked) }))
      return null
    })
  const restore = (from: string | File) =>
    work(async () => {
      setWanted('')
      const done = await (typeof from === 'string' ? api.restore(from) : api.restoreFile(from))
      return `Restored: ${done.builds} builds.${done.kept_as ? ` What was there is kept as ${done.kept_as}.` : ''}`
    })
  const named = typeof wanted === 'string' ? wanted : wanted.name
  return (
    <section aria-label="The data" className="datapanel">
      <h2>The data</h2>
      {data.isError && <p role="alert">{data.error.message}</p>}
      {data.data && (
        <p className="soft">
          <span className="mono">{data.data.path}</span>, {size(data.data.size)}. Pindo copies it by itself, at the start and as it changes. {said[''] && <b>{said['']}</b>}
        </p>
      )}
      {data.data?.trouble && (
        <p role="alert" className="fouls">
          The last copy could not be made. {data.data.trouble}
        </p>
      )}
      {told.text && (
        <p role={told.wrong ? 'alert' : 'status'} className={told.wrong ? 'fouls' : ''}>
          {told.text}
        </p>
      )}
      {wanted !== '' && (
        <div className="trouble" role="alert">
          <span>Put {named} in place of all builds? It is looked through first; what is here now is kept beside it under a name of its own.</span>
          <button type="button" disabled={busy} onClick={() => void restore(wanted)}>
            Restore it
          </button>
          <button type="button" onClick={() => setWanted('')}>
            Leave it
          </button>
        </div>
      )}
      <ul className="plain copies">
        {data.data?.copies.map((c) => (
          <li key={c.name}>
            <span className="mono">{when(c.made_at)}</span>
            <span className="soft mono">{size(c.size)}</span>
            <span>{said[c.name] ?? <span className="soft">not looked through here</span>}</span>
            <button type="button" className="quiet" disabled={busy} onClick={() => void check(c.name)}>
              check<span className="visually-hidden"> the copy of {when(c.made_at)}</span>
            </button>
            <button type="button" className="quiet" disabled={busy} onClick={() => setWanted(c.name)}>
              restore<span className="visually-hidden"> the copy of {when(c.made_at)}</span>
            </button>
          </li>
        ))}
        {data.data?.copies.length === 0 && <li className="soft">No copy yet.</li>}
      </ul>
      <div className="actions">
        <Button variant="outlined" disabled={busy} onClick={() => void work(async () => `Copied as ${(await api.makeCopy()).name}.`)}>
          Copy now
        </Button>
        <Button variant="outlined" disabled={busy} onClick={() => void check('')}>
          Check the data
        </Button>
        <Button variant="outlined" component="label" disabled={busy}>
          Restore from a file
          <input
            type="file"
            accept=".sqlite"
            hidden
            onChange={(e) => {
              setWanted(e.target.files?.[0] ?? '')
              e.target.value = ''
            }}
          />
        </Button>
      </div>
    </section>
  )
}
