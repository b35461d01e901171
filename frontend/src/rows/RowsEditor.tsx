import Button from '@mui/material/Button'
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react'
import type { Act, ColumnRow } from '../api/types'
import { unitOf } from '../api/units'
import { once } from '../entry/hands'
import { useDesk } from '../entry/useDesk'
import { WordsField } from '../entry/WordsField'
import { useBuild } from '../shell/buildContext'
import { Cell } from './Cell'
import { checkNumber, isFigure, pasted, tableOf } from './cells'
import { EvidenceCells } from './EvidenceCells'
import { ForAll, RowMenu } from './RowMenu'
import { rowsOf, type AnyRow } from './rows'

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
  const [wrong, setWrong] = useState<string | null>(null)
  const body = useRef<HTMLTableSectionElement>(null)
  const list = catalogue.lists.find((l) => l.key === listKey)
  if (list === undefined) return null
  const rows = rowsOf(state.document, listKey)
  // The note reads best at the end of its line.
  const columns = list.columns.filter((c) => !without.includes(c.field)).sort((a, b) => Number(a.field === 'note') - Number(b.field === 'note'))
  const head = (c: ColumnRow) => `${c.label}${unitOf(c.kind, 'mm') ? `, ${unitOf(c.kind, 'mm')}` : ''}`
  const add = () => change([{ do: 'add', list: listKey, row: fresh as Record<string, never> }], `${list.title}: one added`).then(setWrong)
  /** The cell that an event came from. */
  const cellOf = (target: EventTarget) => {
    const cell = target instanceof Element ? target.closest('td[data-field]') : null
    const row = cell?.closest('tr')?.getAttribute('data-row')
    return cell && row ? { row: Number(row), field: cell.getAttribute('data-field') ?? '' } : null
  }
  const paste = (event: ClipboardEvent<HTMLElement>) => {
    const [at, table] = [cellOf(event.target), tableOf(event.clipboardData.getData('text/plain'))]
    if (at === null || table.length === 0) return
    event.preventDefault()
    const found = pasted(list, columns, rows.map((r) => r.n), at, table)
    if (found.wrong !== '') setWrong(found.wrong)
    else void change(found.acts, `${list.title}: ${table.length} lines pasted`).then(setWrong)
  }
  const onKey = (event: KeyboardEvent<HTMLElement>) => {
    const at = cellOf(event.target)
    if (at === null) return
    if (event.key === 'd' && event.ctrlKey) {
      event.preventDefault()
      const above = rows[rows.findIndex((r) => r.n === at.row) - 1]
      const column = columns.find((c) => c.field === at.field)
      const value = above?.[at.field]
      if (column === undefined || above === undefined || value == null) return
      const act: Act = isFigure(column) ? { do: 'cell', list: listKey, row: at.row, field: at.field, typed: String(value), tool: null } : { do: 'put', list: listKey, row: at.row, field: at.field, value: value as never }
      void change([act], `${list.one} ${at.row}, ${column.label} as above`).then(setWrong)
    }
    // The last field of the last row: the next row opens, and the hands go there.
    const fields = [...(body.current?.querySelectorAll('td[data-field] input:not([type=checkbox])') ?? [])]
    if (event.key === 'Enter' && !event.shiftKey && fields.at(-1) === event.target) void add().then(() => window.setTimeout(() => body.current?.querySelector<HTMLInputElement>('tr:last-child td[data-field] input')?.focus()))
  }
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
          {list.origin && <p className="origin soft">Places: {list.origin}.</p>}
          <div className="tablescroll" tabIndex={0}>
            <table className="rowstable">
              <thead>
                <tr>
                  <th>no.</th>
                  {columns.map((c) => (
                    <th key={c.field} className={c.field === 'name' ? 'namecell' : ''}>
                      {head(c)}
                      {c.kind === 'choice' && rows.length > 1 && <ForAll column={c} set={(value) => void change(rows.map((r): Act => ({ do: 'put', list: listKey, row: r.n, field: c.field, value: value as never })), `${list.title}: ${c.label} of all: ${value}`).then(setWrong)} />}
                    </th>
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
              <tbody ref={body} onPaste={paste} onKeyDown={onKey}>
                {rows.map((row, i) => (
                  <tr key={row.n} data-row={row.n} className={row.evidence?.lapsed ? 'lapsed' : ''} onPointerEnter={() => light(`${listKey}.${row.n}`)} onPointerLeave={() => light('')}>
                    <th scope="row" className="mono">
                      <WordsField id={`${listKey}-${row.n}-n`} words={`${list.one} ${row.n}, number`} className="textcell whole" shown={String(row.n)} check={checkNumber} acts={(text) => [{ do: 'renumber', list: listKey, row: row.n, to: Number(text) }]} />
                    </th>
                    {columns.map((c) => (
                      <td key={c.field} data-field={c.field} className={c.field === 'name' ? 'namecell' : ''}>
                        <Cell list={list} column={c} row={row} />
                      </td>
                    ))}
                    {list.measured && <EvidenceCells list={list} row={row} at={`/${listKey}/${i}`} />}
                    <td className="rowtools">
                      <RowMenu list={list} row={row} first={i === 0} last={i === rows.length - 1} mirrors={columns.some((c) => c.mirrors)} act={(act, words) => void change([act], words).then(setWrong)} />
                      <button type="button" className="quiet" onClick={once(() => remove(row))}>
                        remove<span className="visually-hidden"> {list.one.toLowerCase()} {row.n}</span>
                      </button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          {wrong !== null && (
            <p role="alert" className="fouls rowswrong">
              {wrong}
            </p>
          )}
          <div className="actions">
            <Button variant="outlined" onClick={once(() => void add())}>
              Add to {list.title.toLowerCase()}
            </Button>
            <span className="soft">Enter at a row's end opens the next; Ctrl D takes the cell above; cells copied from a table can be pasted.</span>
          </div>
        </>
      )}
    </section>
  )
}
