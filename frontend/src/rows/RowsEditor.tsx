import Button from '@mui/material/Button'
import { useState } from 'react'
import type { Act, Build, ColumnRow, ListRow } from '../api/types'
import { unitOf } from '../api/units'
import { putInRow } from '../entry/acts'
import { ChoiceField } from '../entry/ChoiceField'
import { FigureField } from '../entry/FigureField'
import { once } from '../entry/hands'
import { useDesk } from '../entry/useDesk'
import { WordsField } from '../entry/WordsField'
import { SourceSelect, ToolSelect } from '../ledger/EvidenceSelects'
import { sourceClass } from '../ledger/source'
import { useBuild } from '../shell/buildContext'

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
  readonly said?: Readonly<Record<string, Evidence>>
  readonly [field: string]: unknown
}

/** The rows of a list of the build, whatever they are. */
export function rowsOf(build: Build, key: string): readonly AnyRow[] {
  return (build as unknown as Record<string, readonly AnyRow[]>)[key] ?? []
}

const WHOLE = /^\d+$/
const checkWhole = (text: string) => (text === '' || WHOLE.test(text) ? '' : `“${text}” is no whole number.`)
const checkNumbers = (text: string) => (/^[\d\s,;]*$/.test(text) ? '' : `“${text}” is no list of numbers: 3, 5, 8.`)
const checkNumber = (text: string) => (WHOLE.test(text) && Number(text) > 0 ? '' : 'A row has a whole number above zero.')

interface CellProps {
  list: ListRow
  column: ColumnRow
  row: AnyRow
}

/** One cell: a figure, a choice, a yes, whole numbers or words. */
function Cell({ list, column, row }: CellProps) {
  const desk = useDesk()
  const { catalogue } = useBuild()
  const value = row[column.field]
  const id = `${list.key}-${row.n}-${column.field}`
  const unit = unitOf(column.kind, 'mm')
  const words = `${list.one} ${row.n}, ${column.label}${unit ? `, ${unit}` : ''}`
  const put = (to: unknown): Act[] => [{ do: 'put', list: list.key, row: row.n, field: column.field, value: to as never }]
  if (column.kind === 'choice') return <ChoiceField id={id} words={words} shown={String(value ?? '')} choices={column.choices} record={list.record} acts={put} />
  if (column.kind === 'yes')
    return <input id={id} type="checkbox" aria-label={words} checked={(desk.held(id)?.text ?? (value === true ? 'yes' : '')) === 'yes'} onChange={(e) => desk.choose({ field: id, words, text: e.target.checked ? 'yes' : '', acts: put(e.target.checked) })} />
  if (column.kind === 'whole') return <WordsField id={id} words={words} className="textcell whole" shown={value == null ? '' : String(value)} check={checkWhole} acts={(text) => put(text.trim() === '' ? null : Number(text))} />
  if (column.kind === 'numbers') return <WordsField id={id} words={words} className="textcell numbers" shown={(value as number[] | undefined)?.join(', ') ?? ''} check={checkNumbers} acts={(text) => put((text.match(/\d+/g) ?? []).map(Number))} />
  if (column.kind === 'words') {
    const keys = new Map(catalogue.questions.map((q) => [q.name, q.key]))
    const named = new Map(catalogue.questions.map((q) => [q.key, q.name]))
    const shown = ((value as string[] | undefined) ?? []).map((k) => named.get(k) ?? k).join('; ')
    const list_ = (text: string) => text.split(';').map((w) => w.trim()).filter(Boolean)
    return (
      <>
        <WordsField id={id} words={words} className="textcell" shown={shown} acts={(text) => put(list_(text).map((w) => keys.get(w) ?? w))} />
      </>
    )
  }
  if (column.kind === 'text') return <WordsField id={id} words={words} className="textcell" shown={value == null ? '' : String(value)} acts={put} />
  const stands = value == null ? '' : String(value)
  const acts = (typed: string): Act[] => [{ do: 'cell', list: list.key, row: row.n, field: column.field, typed: typed || null, tool: (desk.now().tool || null) as null }]
  return (
    <FigureField
      id={id}
      label={words}
      shown={stands}
      kind={column.kind}
      unit={unit}
      className={`cell ${sourceClass(row.said?.[column.field]?.source ?? row.evidence?.source)} ${value ? '' : 'none'}`}
      mayClear
      acts={acts}
    />
  )
}

function EvidenceCells({ list, row, at }: { list: ListRow; row: AnyRow; at: string }) {
  const { state, change } = useBuild()
  const one = list.one.toLowerCase()
  const id = (field: string) => `${list.key}-${row.n}-${field}`
  const put = (field: string, value: unknown): Act[] => [{ do: 'put', list: list.key, row: row.n, field: `evidence/${field}`, value: value as never }]
  // A lapsed row counts again once it was read again, in the state that the unit is in now.
  const readAgain = () => void change([putInRow(at, row.n, 'n', 'evidence/lapsed', null), putInRow(at, row.n, 'n', 'evidence/state', state.document.state)], `${list.one} ${row.n}, read again`)
  const own = Object.keys(row.said ?? {}).length
  return (
    <>
      <td>
        <SourceSelect id={id('source')} words={`${list.one} ${row.n}, source`} value={row.evidence?.source} acts={(value) => put('source', value)} />
        {own > 0 && <span className="soft"> {own} read since</span>}
        {row.evidence?.lapsed && (
          <>
            <span className="tight"> lapsed: {row.evidence.lapsed.event}</span>{' '}
            <button type="button" className="quiet" onClick={readAgain}>
              read again<span className="visually-hidden"> {one} {row.n}</span>
            </button>
          </>
        )}
      </td>
      <td>
        <ToolSelect id={id('tool')} words={`${list.one} ${row.n}, tool`} value={row.evidence?.tool} acts={(value) => put('tool', value || null)} />
      </td>
      <td>
        <FigureField id={id('pm')} label={`± of ${one} ${row.n}, mm`} shown={row.evidence?.pm ?? ''} kind="length" unit="mm" className="small" mayClear acts={(typed) => put('pm', typed || null)} />
      </td>
    </>
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
  const { catalogue, state, change, light } = useBuild()
  const desk = useDesk()
  const [open, setOpen] = useState(opened)
  const list = catalogue.lists.find((l) => l.key === listKey)
  if (list === undefined) return null
  const rows = rowsOf(state.document, listKey)
  // The note reads best at the end of its line.
  const columns = list.columns.filter((c) => !without.includes(c.field)).sort((a, b) => Number(a.field === 'note') - Number(b.field === 'note'))
  const head = (c: ColumnRow) => `${c.label}${unitOf(c.kind, 'mm') ? `, ${unitOf(c.kind, 'mm')}` : ''}`
  const remove = (row: AnyRow) => desk.choose({ field: `${listKey}-${row.n}`, words: `${list.one} ${row.n} ${row.name}`.trim(), text: 'removed', acts: [{ do: 'remove', list: listKey, row: row.n }] })
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
                {rows.map((row, i) => (
                  <tr key={row.n} className={row.evidence?.lapsed ? 'lapsed' : ''} onPointerEnter={() => light(`${listKey}.${row.n}`)} onPointerLeave={() => light('')}>
                    <th scope="row" className="mono">
                      <WordsField id={`${listKey}-${row.n}-n`} words={`${list.one} ${row.n}, number`} className="textcell whole" shown={String(row.n)} check={checkNumber} acts={(text) => [{ do: 'renumber', list: listKey, row: row.n, to: Number(text) }]} />
                    </th>
                    {columns.map((c) => (
                      <td key={c.field}>
                        <Cell list={list} column={c} row={row} />
                      </td>
                    ))}
                    {list.measured && <EvidenceCells list={list} row={row} at={`/${listKey}/${i}`} />}
                    <td>
                      <button type="button" className="quiet" onClick={once(() => remove(row))}>
                        remove<span className="visually-hidden"> {list.one.toLowerCase()} {row.n}</span>
                      </button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <div className="actions">
            <Button variant="outlined" onClick={once(() => void change([{ do: 'add', list: listKey, row: fresh as Record<string, never> }], `${list.title}: one added`))}>
              Add to {list.title.toLowerCase()}
            </Button>
          </div>
        </>
      )}
    </section>
  )
}
