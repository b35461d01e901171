import { lazy, Suspense, useState } from 'react'
import { bring } from '../tray/brought'
import { useBuild } from '../shell/buildContext'
import { useLooked } from '../shell/looked'
import { rowsOf } from './rows'
import './rows.css'

const RowsTable = lazy(() => import('./RowsTable'))
const EvidenceCells = lazy(() => import('./EvidenceCells'))

interface Props {
  listKey: string
  /** Columns left out here because another part of the screen shows them. */
  without?: readonly string[]
  open?: boolean
  words?: string
  fresh?: Readonly<Record<string, unknown>>
  /** Whether it opens for somebody who was led to one of its rows. */
  led?: boolean
}

/** What nobody read here says so. */
export const ELSEWHERE = { evidence: { source: 'measured elsewhere' } }
const EVIDENCE = ['source', 'tool', '±, mm']

/** Any list of the build, with its head; it opens by itself for somebody who was led to one of its cells. */
export function RowsEditor({ listKey, without = [], open: opened = false, words = '', fresh = {}, led: mayLead = true }: Props) {
  const { catalogue, state } = useBuild()
  const [chosen, setOpen] = useState<boolean | null>(null)
  const led = useLooked((l) => mayLead && l.visited.startsWith(`${listKey}.`))
  const open = chosen ?? (opened || led)
  const list = catalogue.lists.find((l) => l.key === listKey)
  if (list === undefined) return null
  const rows = rowsOf(state.document, listKey)
  // The note reads best at the end of its line.
  const columns = list.columns.filter((c) => !without.includes(c.field)).sort((a, b) => Number(a.field === 'note') - Number(b.field === 'note'))
  return (
    <section className="rows" aria-label={list.title}>
      <div className="panelhead">
        <h2>{list.title}</h2>
        <span className="soft">{words || (rows.length === 0 ? 'none yet' : `${rows.length}`)}</span>
        <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'close' : 'open'} {list.title.toLowerCase()}
        </button>
        {open && (
          <button type="button" className="quiet" onClick={() => bring({ into: listKey })}>
            table<span className="visually-hidden"> of {list.title.toLowerCase()}</span>
          </button>
        )}
      </div>
      {open && (
        <Suspense fallback={null}>
          {list.origin && <p className="origin soft">Places: {list.origin}.</p>}
          <RowsTable
            list={listKey}
            address={(n) => `${listKey}.${n}`}
            title={list.title}
            columns={columns}
            rows={rows}
            called={(row) => `${list.one} ${row.n}`}
            record={list.record}
            copies={!list.record}
            fresh={fresh}
            pastedAs={list.measured ? ELSEWHERE : undefined}
            adds={`Add to ${list.title.toLowerCase()}`}
            heads={list.measured ? EVIDENCE : []}
            extra={list.measured ? (row, i) => <EvidenceCells list={list} row={row} at={`/${listKey}/${i}`} /> : undefined}
          />
        </Suspense>
      )}
    </section>
  )
}
