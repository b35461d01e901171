import Button from '@mui/material/Button'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, queries } from '../../api/client'
import type { Act, LibraryPart } from '../../api/types'
import { once } from '../../entry/hands'
import { useBuild } from '../../shell/buildContext'
import './survey.css'

/** The act that lays a part of the library onto the shelf of this build. */
export function onTheShelf(part: LibraryPart): Act {
  const row = Object.fromEntries(Object.entries(part.row).filter(([field]) => field !== 'n'))
  return { do: 'add', list: 'parts', row: row as Record<string, never> }
}

/** What is asked of the library, with what went wrong. */
export function useLibrary() {
  const client = useQueryClient()
  const [wrong, tell] = useState('')
  const found = useQuery(queries.library())
  const act = (what: Promise<unknown>) => {
    tell('')
    what
      .catch((error: Error) => tell(error.message))
      .finally(() => {
        void client.invalidateQueries({ queryKey: ['library'] })
        void client.invalidateQueries({ queryKey: ['candidates'] })
      })
  }
  return { found: found.data, wrong, tell, act }
}

/** Parts that the shop keeps beside its builds. */
export default function Library() {
  const { change } = useBuild()
  const { found, wrong, tell, act } = useLibrary()
  const [open, setOpen] = useState(false)
  const names = new Map(found?.parts.map((p) => [p.id, p.name]))
  return (
    <section aria-label="Shop library" className="rows">
      <div className="panelhead">
        <h2>Shop library</h2>
        <span className="soft">{found === undefined ? '' : found.parts.length === 0 ? 'no part kept yet: “keep in the library” is on every part' : `${found.parts.length} parts, from all builds`}</span>
        <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'close the library' : 'open the library'}
        </button>
      </div>
      {wrong !== '' && (
        <p role="alert" className="fouls">
          {wrong}
        </p>
      )}
      {open && (
        <div className="partkinds">
          <ul className="plain partlist">
            {found?.parts.map((p) => (
              <li key={p.id} data-library={p.id}>
                <span>
                  <b>{p.name}</b> <span className="soft">{p.kind}</span>
                </span>
                <span className="mono soft">{p.sizes} sizes</span>
                <span className="soft partsaid">{[p.version, `from ${p.came_of}`, p.at.slice(0, 10)].filter(Boolean).join(' · ')}</span>
                <span className="libraryacts">
                  <button type="button" className="plainbutton" onClick={once(() => void change([onTheShelf(p)], `${p.name} from the library onto the shelf`).then((w) => tell(w ?? '')))}>
                    Onto the shelf<span className="visually-hidden"> {p.name}</span>
                  </button>
                  <button type="button" className="quiet" onClick={once(() => act(api.leaveLibrary(p.id)))}>
                    take out<span className="visually-hidden"> {p.name}</span>
                  </button>
                </span>
              </li>
            ))}
          </ul>
          {found?.alike.map(([a, b]) => (
            <p key={`${a}${b}`} className="tight">
              {names.get(a)} and {names.get(b)} measure alike: one part twice?{' '}
              <button type="button" className="plainbutton" onClick={once(() => act(api.mergeParts(a, b)))}>
                Merge them
              </button>
            </p>
          ))}
          <div className="actions">
            <a href="/api/library/parts.json">all of it as JSON</a>
            <a href="/api/library/parts.csv">as CSV, a line for each size</a>
            <Button variant="outlined" component="label">
              Take in a file
              <input
                type="file"
                accept=".json,.csv,application/json,text/csv"
                hidden
                onChange={(e) => {
                  const file = e.target.files?.[0]
                  if (file !== undefined) act(api.takeParts(file))
                  e.target.value = ''
                }}
              />
            </Button>
          </div>
        </div>
      )}
    </section>
  )
}
