import { lazy, Suspense, useState, type ReactNode } from 'react'
import { bring } from '../tray/brought'
import { useBuild } from '../shell/buildContext'
import { useLooked } from '../shell/looked'
import type { ColumnRow, ListRow } from '../api/types'
import { unitOf } from '../api/units'
import { rowsOf, type AnyRow } from './rows'
import './rows.css'

const RowsTable = lazy(() => import('./RowsTable'))
const Cell = lazy(() => import('./Cell'))
const EvidenceCells = lazy(() => import('./EvidenceCells'))

interface Props {
  listKey: string
  /** Columns left out here because another part of the screen shows them. */
  without?: readonly string[]
  open?: boolean
  words?: string
  fresh?: Readonly<Record<string, unknown>>
  /** Columns that open under their row, where there would be too many for a line. */
  folded?: readonly string[]
  /** What opens under a row beside its own lists. */
  more?: (row: AnyRow) => ReactNode
  /** Whether it opens for somebody who was led to one of its rows. */
  led?: boolean
}

/** What nobody read here says so. */
export const ELSEWHERE = { evidence: { source: 'measured elsewhere' } }
const EVIDENCE = ['source', 'tool', '±, mm']

/** Any list of the build, with its head; it opens by itself for somebody who was led to one of its cells. */
export function RowsEditor({ listKey, without = [], open: opened = false, words = '', fresh = {}, folded = [], more, led: mayLead = true }: Props) {
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
            columns={columns.filter((c) => !folded.includes(c.field))}
            rows={rows}
            called={(row) => `${list.one} ${row.n}`}
            record={list.record}
            copies={!list.record}
            fresh={fresh}
            pastedAs={list.measured ? ELSEWHERE : undefined}
            adds={`Add to ${list.title.toLowerCase()}`}
            heads={list.measured ? EVIDENCE : []}
            more={more || folded.length + list.parts.length > 0 ? (row) => (
              <>
                <Folded list={list} row={row} columns={columns.filter((c) => folded.includes(c.field))} />
                {more?.(row)}
                <PartsOf list={list} row={row} />
              </>
            ) : undefined}
            extra={list.measured ? (row, i) => <EvidenceCells list={list} row={row} at={`/${listKey}/${i}`} /> : undefined}
          />
        </Suspense>
      )}
    </section>
  )
}

/** Cells of a row that are no column of the table. */
function Folded({ list, row, columns }: { list: ListRow; row: AnyRow; columns: readonly ColumnRow[] }) {
  if (columns.length === 0) return null
  return (
    <div className="options">
      {columns.map((c) => {
        const id = `${list.key}-${row.n}-${c.field}`
        return (
          <label key={c.field} className="field" htmlFor={id}>
            {c.label}
            <Cell list={list.key} row={row.n} column={c} value={row[c.field]} id={id} words={`${list.one} ${row.n}, ${c.label}`} unit={unitOf(c.kind, 'mm')} source={row.evidence?.source} record={list.record} />
          </label>
        )
      })}
    </div>
  )
}

/** The lists that a row has of its own: pieces of a kit, claims and dates of a part. */
function PartsOf({ list, row }: { list: ListRow; row: AnyRow }) {
  return list.parts.map((parts) => (
    <div key={parts.key} className="partrows">
      <h3>{parts.title}</h3>
      <RowsTable
        list={parts.key}
        of={row.n}
        address={(n) => `${list.key}.${row.n}.${parts.field}.${n}`}
        title={`${parts.title}, ${list.one.toLowerCase()} ${row.n}`}
        columns={parts.columns}
        rows={(row[parts.field] as AnyRow[] | undefined) ?? []}
        called={(part) => `${parts.one} ${part.n}`}
        record={list.record}
        copies={false}
        hinted={false}
        adds={`Add: ${parts.one.toLowerCase()}`}
      />
    </div>
  ))
}
