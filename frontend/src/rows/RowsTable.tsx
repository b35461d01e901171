import Button from '@mui/material/Button'
import { Fragment, useState, type ReactNode } from 'react'
import type { Act, ColumnRow } from '../api/types'
import { unitOf } from '../api/units'
import { once } from '../entry/hands'
import { useDesk } from '../entry/useDesk'
import { Hint } from '../hints/Hint'
import { WordsField } from '../entry/WordsField'
import { useBuild } from '../shell/buildContext'
import { light } from '../shell/looked'
import Cell from './Cell'
import { checkNumber, type TableColumn } from './cells'
import { inOrder, toggled } from './marked'
import { MarkedBar } from './MarkedBar'
import { Others } from './Others'
import { ForAll, RowMenu } from './RowMenu'
import type { AnyRow } from './rows'
import { useTableHands } from './useTableHands'
import './rows.css'

export interface TableOf {
  /** The list, as an act names it. */
  readonly list: string
  /** The row that all of them are parts of, by number. */
  readonly of?: number
  /** Address of a row by its number, as the assessment has it: `mounts.3`. */
  readonly address: (n: number) => string
  readonly title: string
  readonly columns: readonly TableColumn[]
  readonly rows: readonly AnyRow[]
  /** What a row is called, and what stands before its number. */
  readonly called: (row: AnyRow) => string
  readonly letter?: string
  /** What the row's own column is called. */
  readonly head?: string
  readonly unit?: string
  readonly record?: boolean
  readonly copies?: boolean
  readonly fresh?: Readonly<Record<string, unknown>>
  /** Source of the rows that say none of their own; undefined where no row has evidence. */
  readonly source?: string
  /** What a row that is pasted says of itself beside its cells. */
  readonly pastedAs?: Readonly<Record<string, unknown>>
  readonly adds: string
  /** A figure as it would be typed here, where that is not as the assessment has it. */
  readonly asTyped?: (field: string, value: number) => number
  /** Whether a cell is wanted before anything can be said of its row. */
  readonly wanted?: (row: AnyRow, field: string) => boolean
  /** Columns after the list's own, with their heads. */
  readonly heads?: readonly string[]
  readonly extra?: (row: AnyRow, index: number) => ReactNode
  /** Whether it says what hands can do in it; tables that stand together say it once. */
  readonly hinted?: boolean
  /** What opens under a row. */
  readonly more?: (row: AnyRow, index: number) => ReactNode
}

/** Letters of a head that stays on one line. */
const SHORT = 13

/** A list as a table: one line a row, every change journalled like a figure of the ledger. */
export default function RowsTable({ list, of, address, title, columns, rows, called, letter = '', head = 'no.', unit = 'mm', record = false, copies = true, fresh = {}, pastedAs = {}, source, adds, asTyped = (_, value) => value, wanted, heads = [], extra, more, hinted = true }: TableOf) {
  const { change, assessment } = useBuild()
  const worked = (row: AnyRow, field: string) => {
    const value = assessment.quantities[`${address(row.n)}.${field}`]?.value
    return value == null ? null : asTyped(field, value)
  }
  const desk = useDesk()
  const [wrong, tell] = useState<string | null>(null)
  const [opened, open] = useState(0)
  const [doubled, double] = useState(0)
  const [marks, mark] = useState<{ of: ReadonlySet<number>; last: number | null }>({ of: new Set(), last: null })
  // A row that somebody else took out is not marked any more.
  const marked = new Set(inOrder(rows, marks.of).map((r) => r.n))
  const hands = useTableHands({ list, of, title, columns, rows, fresh, pastedAs, called, tell })
  const idOf = (row: AnyRow) => address(row.n).replaceAll('.', '-')
  const unitIn = (c: ColumnRow) => unitOf(c.kind, 'mm') && (c.kind === 'length' ? unit : unitOf(c.kind, 'mm'))
  const headed = (c: ColumnRow) => `${c.label}${unitIn(c) ? `, ${unitIn(c)}` : ''}`
  const changed = (acts: Act[], words: string) => void change(acts, words).then(tell)
  const act = (one: Act, words: string) => changed([one], words)
  const spoken = (row: AnyRow) => (row.others ?? []).filter((o) => o.settled === '').length
  const forAll = (c: ColumnRow) => (value: string) => void change(rows.map((r): Act => ({ do: 'put', list, of, row: r.n, field: c.field, value: value as never })), `${title}: ${c.label} of all: ${value}`).then(tell)
  const remove = (row: AnyRow) => desk.choose({ field: idOf(row), words: `${called(row)} removed`, text: 'removed', acts: [{ do: 'remove', list, of, row: row.n }] })
  const wide = 2 + columns.length + heads.length
  return (
    <>
      {rows.length > 0 && (
        <div className="tablescroll" tabIndex={0}>
          <table className="rowstable" aria-label={title}>
            <thead>
              <tr>
                <th>{head}</th>
                {columns.map((c) => (
                  <th key={c.field} className={`${c.field === 'name' ? 'namecell' : ''} ${headed(c).length <= SHORT ? 'short' : ''}`}>
                    {headed(c)}
                    <span className="headtools">
                      <Hint word={c.field} name={c.label} />
                      {c.kind === 'choice' && rows.length > 1 && <ForAll column={c} set={forAll(c)} />}
                    </span>
                  </th>
                ))}
                {heads.map((h) => (
                  <th key={h}>{h}</th>
                ))}
                <th>
                  <span className="visually-hidden">{more ? 'more, remove' : 'remove'}</span>
                </th>
              </tr>
            </thead>
            <tbody ref={hands.body} onPaste={hands.onPaste} onKeyDown={hands.onKeyDown}>
              {rows.map((row, i) => (
                <Fragment key={row.n}>
                  <tr data-row={row.n} className={row.evidence?.lapsed ? 'lapsed' : ''} onPointerEnter={() => light(address(row.n))} onPointerLeave={() => light('')}>
                    <th scope="row" className="mono">
                      {rows.length > 1 && (
                        <input type="checkbox" className="rowmark" aria-label={`Mark ${called(row)}`} checked={marked.has(row.n)} onChange={() => undefined} onClick={(e) => mark({ of: toggled(rows, marked, row.n, e.shiftKey ? marks.last : null), last: row.n })} />
                      )}
                      {letter}
                      <WordsField id={`${idOf(row)}-n`} words={`${called(row)}, number`} className="textcell whole" shown={String(row.n)} check={checkNumber} acts={(text) => [{ do: 'renumber', list, row: row.n, to: Number(text) }]} />
                      {letter && row.name && <span className="soft nickname"> {row.name}</span>}
                    </th>
                    {columns.map((c) => (
                      <td key={c.field} data-field={c.field} data-unmeasured={wanted?.(row, c.field)} className={c.field === 'name' ? 'namecell' : ''}>
                        <Cell list={list} of={of} row={row.n} column={c} value={row[c.field]} id={`${idOf(row)}-${c.field}`} words={`${called(row)}${letter ? ' ' : ', '}${headed(c)}`} unit={unitIn(c)} source={row.said?.[c.field]?.source ?? row.evidence?.source ?? source} worked={worked(row, c.field)} record={record} />
                      </td>
                    ))}
                    {extra?.(row, i)}
                    <td className="rowtools">
                      {more && (
                        <button type="button" className="quiet" aria-expanded={opened === row.n} aria-label={`More of ${called(row)}`} onClick={() => open(opened === row.n ? 0 : row.n)}>
                          {opened === row.n ? 'less' : 'more'}
                        </button>
                      )}
                      <RowMenu list={list} of={of} row={row.n} called={called(row)} first={i === 0} last={i === rows.length - 1} copies={copies} mirrors={columns.some((c) => c.mirrors)} act={act} otherwise={row.others && (() => double(doubled === row.n ? 0 : row.n))} />
                      {spoken(row) > 0 && doubled !== row.n && (
                        <button type="button" className="quiet tight" onClick={() => double(row.n)}>
                          said twice<span className="visually-hidden">: {called(row)}</span>
                        </button>
                      )}
                      <button type="button" className="quiet" onClick={once(() => remove(row))}>
                        remove<span className="visually-hidden"> {called(row)}</span>
                      </button>
                    </td>
                  </tr>
                  {doubled === row.n && (
                    <tr>
                      <td colSpan={wide}>
                        <div className="rowmore">
                          <Others list={list} of={of} row={row} columns={columns} called={called(row)} act={act} />
                        </div>
                      </td>
                    </tr>
                  )}
                  {more && opened === row.n && (
                    <tr>
                      <td colSpan={wide}>
                        <div className="rowmore">{more(row, i)}</div>
                      </td>
                    </tr>
                  )}
                </Fragment>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {wrong !== null && (
        <p role="alert" className="fouls rowswrong">
          {wrong}
        </p>
      )}
      {marked.size > 0 && <MarkedBar place={of === undefined ? { list } : { list, of }} title={title} rows={rows} marked={marked} columns={columns} copies={copies} change={changed} clear={() => mark({ of: new Set(), last: null })} />}
      <div className="actions">
        <Button variant="outlined" onClick={once(() => void hands.add())}>
          {adds}
        </Button>
      </div>
      {hinted && <TableHint />}
    </>
  )
}

/** What the hands can do in every table, said once for the tables that stand together. */
export function TableHint() {
  return <p className="soft tablehint">Enter at a row's end opens the next; Ctrl D takes the cell above, as a guess; cells copied from a table can be pasted, as measured elsewhere.</p>
}
