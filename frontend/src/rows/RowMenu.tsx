import type { Act, ColumnRow } from '../api/types'
import './rows.css'

interface Props {
  list: string
  of?: number
  row: number
  called: string
  first: boolean
  last: boolean
  /** Whether a row beside it may be like it: what happened was done once. */
  copies: boolean
  /** Whether the row has figures that have the other sign on the other side. */
  mirrors: boolean
  act: (act: Act, words: string) => void
  /** Opens what others say of the row; left out where it can have none. */
  otherwise?: () => void
}

/** What can be done with a row beside its cells; a copy is a guess until somebody reads it. */
export function RowMenu({ list, of, row, called, first, last, copies, mirrors, act, otherwise }: Props) {
  const at = { list, of, row }
  const acts: Record<string, () => void> = {
    copy: () => act({ do: 'copy', ...at, mirror: false }, `${called} copied`),
    mirror: () => act({ do: 'copy', ...at, mirror: true }, `${called} mirrored`),
    up: () => act({ do: 'move', ...at, by: -1 }, `${called} moved up`),
    down: () => act({ do: 'move', ...at, by: 1 }, `${called} moved down`),
    otherwise: () => otherwise?.(),
  }
  return (
    <select className="rowmenu" aria-label={`${called}: copy, mirror or move it`} value="" onChange={(e) => acts[e.target.value]?.()}>
      <option value="">row …</option>
      {copies && <option value="copy">copy it</option>}
      {mirrors && copies && <option value="mirror">copy it to the other side</option>}
      {!first && <option value="up">move it up</option>}
      {!last && <option value="down">move it down</option>}
      {otherwise && <option value="otherwise">said otherwise …</option>}
    </select>
  )
}

/** One choice for every row. */
export function ForAll({ column, set }: { column: ColumnRow; set: (value: string) => void }) {
  return (
    <select className="rowmenu" aria-label={`${column.label} of all rows`} value="" onChange={(e) => e.target.value !== '' && set(e.target.value)}>
      <option value="">all …</option>
      {column.choices.filter(Boolean).map((c) => (
        <option key={c} value={c}>
          {c}
        </option>
      ))}
    </select>
  )
}
