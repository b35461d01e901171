import Button from '@mui/material/Button'
import { useState } from 'react'
import type { Build, ColumnRow, ListRow, Op } from '../api/types'
import { unitOf } from '../api/units'
import { SourceSelect, ToolSelect } from '../ledger/EvidenceSelects'
import { FigureField } from '../ledger/FigureField'
import { sourceClass } from '../ledger/source'
import { useBuild } from '../shell/buildContext'
import { triedAt } from '../shell/patches'

type Value = string | number | boolean | null | undefined | readonly number[]
interface Evidence {
  readonly source: string
  readonly tool: string | null
  readonly pm: string | null
  readonly lapsed: { readonly event: string } | null
}
export interface AnyRow {
  readonly n: number
  readonly name: string
  readonly evidence?: Evidence
  readonly [field: string]: unknown
}

/** The rows of a list of the build, whatever they are. */
export function rowsOf(build: Build, key: string): readonly AnyRow[] {
  return (build as unknown as Record<string, readonly AnyRow[]>)[key] ?? []
}

/** Puts a row behind the others under the next free number. */
export function addRowOps(build: Build, key: string, row: Readonly<Record<string, unknown>>): Op[] {
  const n = Math.max(0, ...rowsOf(build, key).map((r) => r.n)) + 1
  return [{ op: 'add', path: `/${key}/-`, value: { n, ...row } }]
}

/** A lapsed row counts again once it was read again, in the state that the unit is in now. */
export function readAgainOps(build: Build, at: string): Op[] {
  return [
    { op: 'replace', path: `${at}/evidence/lapsed`, value: null },
    { op: 'replace', path: `${at}/evidence/state`, value: build.state },
  ]
}

interface CellProps {
  list: ListRow
  column: ColumnRow
  row: AnyRow
  /** What a trial puts here instead of what is stored; undefined where it leaves it alone. */
  tried: unknown
  put: (field: string, value: Value, asTrial?: boolean) => Promise<string | null>
}

/** One cell: a figure, a choice, a yes, a whole number or words. */
function Cell({ list, column, row, tried, put }: CellProps) {
  const value = (tried === undefined ? row[column.field] : tried) as Value
  const label = `${list.one} ${row.n}, ${column.label}`
  if (column.kind === 'choice')
    return (
      <select aria-label={label} value={String(value ?? '')} onChange={(e) => void put(column.field, e.target.value)}>
        {column.choices.map((c) => (
          <option key={c} value={c}>
            {c === '' ? 'not said' : c}
          </option>
        ))}
      </select>
    )
  if (column.kind === 'yes') return <input type="checkbox" aria-label={label} checked={value === true} onChange={(e) => void put(column.field, e.target.checked)} />
  if (column.kind === 'text' || column.kind === 'whole' || column.kind === 'numbers') {
    const shown = value == null ? '' : Array.isArray(value) ? value.join(', ') : String(value)
    const take = (text: string) => {
      if (text === shown) return
      if (column.kind === 'text') void put(column.field, text)
      else if (column.kind === 'numbers') void put(column.field, (text.match(/\d+/g) ?? []).map(Number))
      else if (text.trim() === '' || /^\d+$/.test(text.trim())) void put(column.field, text.trim() === '' ? null : Number(text))
    }
    return <input key={shown} className={`textcell ${column.kind}`} aria-label={label} defaultValue={shown} maxLength={2000} onBlur={(e) => take(e.target.value)} onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()} />
  }
  return (
    <FigureField
      id={`${list.key}-${row.n}-${column.field}`}
      label={`${label}${unitOf(column.kind, 'mm') ? `, ${unitOf(column.kind, 'mm')}` : ''}`}
      shown={value == null ? '' : String(value)}
      kind={column.kind}
      unit={unitOf(column.kind, 'mm')}
      className={`cell ${sourceClass(row.evidence?.source)} ${value ? '' : 'none'}`}
      mayClear
      commit={(typed, _, asTrial) => put(column.field, typed === '' ? null : typed, asTrial)}
    />
  )
}

interface Props {
  listKey: string
  /** Columns left out here because another part of the screen shows them. */
  without?: readonly string[]
  open?: boolean
  words?: string
  fresh?: Readonly<Record<string, unknown>>
}

/** Any list of the build as a table: one line a row, every change journalled like a figure of the ledger. */
export function RowsEditor({ listKey, without = [], open: opened = false, words = '', fresh = {} }: Props) {
  const { catalogue, state, change, enter, light, trial } = useBuild()
  const [open, setOpen] = useState(opened)
  const list = catalogue.lists.find((l) => l.key === listKey)
  if (list === undefined) return null
  const rows = rowsOf(state.document, listKey)
  // The note reads best at the end of its line.
  const columns = list.columns.filter((c) => !without.includes(c.field)).sort((a, b) => Number(a.field === 'note') - Number(b.field === 'note'))
  const head = (c: ColumnRow) => `${c.label}${unitOf(c.kind, 'mm') ? `, ${unitOf(c.kind, 'mm')}` : ''}`
  return (
    <section className="rows" aria-label={list.title}>
      <div className="panelhead">
        <h2>{list.title}</h2>
        <span className="soft">{words || (rows.length === 0 ? 'none yet' : `${rows.length}`)}</span>
        <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'close' : 'open'} {list.title.toLowerCase()}
        </button>
      </div>
      {open && (
        <>
          <div className="tablescroll" tabIndex={0}>
            <table className="rowstable">
              <thead>
                <tr>
                  <th>no.</th>
                  {columns.map((c) => (
                    <th key={c.field}>{head(c)}</th>
                  ))}
                  {list.measured && (
                    <>
                      <th>source</th>
                      <th>tool</th>
                      <th>±, mm</th>
                    </>
                  )}
                  <th>
                    <span className="visually-hidden">remove</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {rows.map((row, i) => {
                  const at = `/${listKey}/${i}`
                  const put = (field: string, value: Value, asTrial = false) => {
                    const column = columns.find((c) => c.field === field)
                    // Words turn no finding: they are kept at once.
                    const take = column?.kind === 'text' ? change : enter
                    return take([{ op: 'add', path: `${at}/${field}`, value }], `${list.one} ${row.n}, ${column ? head(column) : field.replace('evidence/', '')}`, asTrial)
                  }
                  return (
                    <tr key={row.n} className={row.evidence?.lapsed ? 'lapsed' : ''} onPointerEnter={() => light(`${listKey}.${row.n}`)} onPointerLeave={() => light('')}>
                      <th scope="row" className="mono">
                        {row.n}
                      </th>
                      {columns.map((c) => (
                        <td key={c.field}>
                          <Cell list={list} column={c} row={row} tried={triedAt(trial?.ops, `${at}/${c.field}`)} put={put} />
                        </td>
                      ))}
                      {list.measured && (
                        <>
                          <td>
                            <SourceSelect label={`${list.one} ${row.n}, source`} value={row.evidence?.source} put={(value) => void put('evidence/source', value)} />
                            {row.evidence?.lapsed && (
                              <>
                                <span className="tight"> lapsed: {row.evidence.lapsed.event}</span>{' '}
                                <button type="button" className="quiet" onClick={() => void change(readAgainOps(state.document, at), `${list.one} ${row.n}, read again`)}>
                                  read again<span className="visually-hidden"> {list.one.toLowerCase()} {row.n}</span>
                                </button>
                              </>
                            )}
                          </td>
                          <td>
                            <ToolSelect label={`${list.one} ${row.n}, tool`} value={row.evidence?.tool} put={(value) => void put('evidence/tool', value || null)} />
                          </td>
                          <td>
                            <FigureField id={`${listKey}-${row.n}-pm`} label={`± of ${list.one.toLowerCase()} ${row.n}, mm`} shown={row.evidence?.pm ?? ''} kind="length" unit="mm" className="small" mayClear commit={(typed) => put('evidence/pm', typed || null)} />
                          </td>
                        </>
                      )}
                      <td>
                        <button type="button" className="quiet" onClick={() => void enter([{ op: 'remove', path: at }], `${list.one} ${row.n} ${row.name}`.trim())}>
                          remove<span className="visually-hidden"> {list.one.toLowerCase()} {row.n}</span>
                        </button>
                      </td>
                    </tr>
                  )
                })}
              </tbody>
            </table>
          </div>
          <div className="actions">
            <Button variant="outlined" onClick={() => void change(addRowOps(state.document, listKey, fresh), `${list.title}: one added`)}>
              Add to {list.title.toLowerCase()}
            </Button>
          </div>
        </>
      )}
    </section>
  )
}
