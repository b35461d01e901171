import { useEffect, useRef, type ClipboardEvent, type KeyboardEvent, type RefObject } from 'react'
import type { Act, ColumnRow } from '../api/types'
import { bring } from '../tray/brought'
import { useBuild } from '../shell/buildContext'
import { isFigure, pasted, saidIn, tableOf } from './cells'
import type { AnyRow } from './rows'

interface Table {
  readonly list: string
  readonly of?: number
  readonly title: string
  readonly columns: readonly ColumnRow[]
  readonly rows: readonly AnyRow[]
  /** What a new row has from the start. */
  readonly fresh: Readonly<Record<string, unknown>>
  readonly pastedAs: Readonly<Record<string, unknown>>
  readonly called: (row: AnyRow) => string
  /** What was refused, in words; null for nothing. */
  readonly tell: (wrong: string | null) => void
}

interface Hands {
  readonly body: RefObject<HTMLTableSectionElement | null>
  readonly add: () => Promise<void>
  readonly onPaste: (event: ClipboardEvent<HTMLElement>) => void
  readonly onKeyDown: (event: KeyboardEvent<HTMLElement>) => void
}

/** The cell that an event came from. */
function cellOf(target: EventTarget): { row: number; field: string } | null {
  const cell = target instanceof Element ? target.closest('td[data-field]') : null
  const row = cell?.closest('tr')?.getAttribute('data-row')
  return cell && row ? { row: Number(row), field: cell.getAttribute('data-field') ?? '' } : null
}

const CELLS = 'td[data-field] input:not([type=checkbox])'

/** What hands do in a table beside typing: a row that follows at the end, the cell above, cells copied from elsewhere. */
export function useTableHands({ list, of, title, columns, rows, fresh, pastedAs, called, tell }: Table): Hands {
  const { change } = useBuild()
  const body = useRef<HTMLTableSectionElement>(null)
  // A new row is typed into at once, unless the hands are in another field by then.
  const awaited = useRef(0)
  useEffect(() => {
    if (awaited.current === 0 || rows.length < awaited.current) return
    awaited.current = 0
    const row = rows.at(-1)
    if (row === undefined || (document.activeElement?.tagName === 'INPUT' && !body.current?.contains(document.activeElement))) return
    body.current?.querySelector<HTMLInputElement>(`tr[data-row="${row.n}"] ${CELLS}`)?.focus()
  }, [rows])
  const add = async () => {
    awaited.current = rows.length + 1
    const wrong = await change([{ do: 'add', list, of, row: fresh as Record<string, never> }], `${title}: one added`)
    if (wrong !== null) awaited.current = 0
    tell(wrong)
  }
  const onPaste = (event: ClipboardEvent<HTMLElement>) => {
    const [at, table] = [cellOf(event.target), tableOf(event.clipboardData.getData('text/plain'))]
    if (at === null || table.length === 0) return
    event.preventDefault()
    const found = pasted(of === undefined ? { list } : { list, of }, columns, rows.map((r) => r.n), at, table, { ...fresh, ...pastedAs })
    // What does not fit is looked at line by line: nothing of it is lost.
    if (found.wrong !== '') bring({ text: event.clipboardData.getData('text/plain'), into: list })
    else void change(found.acts, `${title}: ${table.length} lines pasted`).then(tell)
  }
  /** The cell above, taken over: nobody read it here, so a figure is a guess until somebody does. */
  const fillDown = (at: { row: number; field: string }) => {
    const row = rows.find((r) => r.n === at.row)
    const above = rows[rows.findIndex((r) => r.n === at.row) - 1]
    const column = columns.find((c) => c.field === at.field)
    // What is seen above counts, though it may not be stored yet.
    const seen = above && body.current?.querySelector<HTMLInputElement | HTMLSelectElement>(`tr[data-row="${above.n}"] td[data-field="${at.field}"] :is(input, select)`)
    const shown = seen instanceof HTMLInputElement && seen.type === 'checkbox' ? (seen.checked ? 'yes' : 'no') : (seen?.value ?? '')
    if (row === undefined || column === undefined || shown === '') return
    const act: Act = isFigure(column) ? { do: 'cell', list, of, row: row.n, field: at.field, typed: shown, source: 'guess', tool: null } : { do: 'put', list, of, row: row.n, field: at.field, value: saidIn(column, shown) as never }
    void change([act], `${called(row)}, ${column.label} as above`).then(tell)
  }
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    const at = cellOf(event.target)
    if (at === null) return
    if (event.key === 'd' && event.ctrlKey) {
      event.preventDefault()
      fillDown(at)
    }
    // The last field of the last row: the next row opens, and the hands go there.
    const fields = [...(body.current?.querySelectorAll(CELLS) ?? [])]
    if (event.key === 'Enter' && !event.shiftKey && fields.at(-1) === event.target) void add()
  }
  return { body, add, onPaste, onKeyDown }
}
