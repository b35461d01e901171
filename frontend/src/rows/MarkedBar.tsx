import type { Act, ColumnRow } from '../api/types'
import { once } from '../entry/hands'
import type { TablePlace } from './cells'
import { actsOf, asTheFirst, type ForMarked } from './marked'
import type { AnyRow } from './rows'
import './rows.css'

interface Props {
  place: TablePlace
  title: string
  rows: readonly AnyRow[]
  marked: ReadonlySet<number>
  columns: readonly ColumnRow[]
  copies: boolean
  change: (acts: Act[], words: string) => void
  clear: () => void
}

/** What can be done with all marked rows at once, as one step of the history. */
export function MarkedBar({ place, title, rows, marked, columns, copies, change, clear }: Props) {
  const count = `${marked.size} row${marked.size === 1 ? '' : 's'}`
  const button = (what: ForMarked, label: string, done: string) => (
    <button type="button" className="plainbutton" onClick={once(() => change(actsOf(place, rows, marked, what), `${title}: ${count} ${done}`))}>
      {label}
    </button>
  )
  return (
    <div className="actions markedbar" role="group" aria-label={`Marked rows of ${title}`}>
      <span>{count} marked</span>
      {copies && button('copy', 'copy', 'copied')}
      {copies && columns.some((c) => c.mirrors) && button('mirror', 'copy to the other side', 'mirrored')}
      {button('up', 'up', 'moved up')}
      {button('down', 'down', 'moved down')}
      {marked.size > 1 && (
        <select
          className="rowmenu wide"
          aria-label={`One column of the marked rows of ${title} as in the first of them`}
          value=""
          onChange={(e) => {
            const column = columns.find((c) => c.field === e.target.value)
            if (column) change(asTheFirst(place, rows, marked, column), `${title}: ${column.label} of ${count} as in the first`)
          }}
        >
          <option value="">as the first …</option>
          {columns.map((c) => (
            <option key={c.field} value={c.field}>
              {c.label}
            </option>
          ))}
        </select>
      )}
      {button('remove', 'remove', 'removed')}
      <button type="button" className="quiet" onClick={clear}>
        unmark all
      </button>
    </div>
  )
}
