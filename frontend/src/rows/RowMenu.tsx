import type { Act, ColumnRow, ListRow } from '../api/types'
import type { AnyRow } from './rows'

interface Props {
  list: ListRow
  row: AnyRow
  first: boolean
  last: boolean
  /** Whether the row has figures that have the other sign on the other side. */
  mirrors: boolean
  act: (act: Act, words: string) => void
}

/** What can be done with a row beside its cells; a copy is a guess until somebody reads it. */
export function RowMenu({ list, row, first, last, mirrors, act }: Props) {
  const name = `${list.one} ${row.n}`
  const at = { list: list.key, row: row.n }
  const acts: Record<string, () => void> = {
    copy: () => act({ do: 'copy', ...at, mirror: false }, `${name} copied`),
    mirror: () => act({ do: 'copy', ...at, mirror: true }, `${name} mirrored`),
    up: () => act({ do: 'move', ...at, by: -1 }, `${name} moved up`),
    down: () => act({ do: 'move', ...at, by: 1 }, `${name} moved down`),
  }
  return (
    <select className="rowmenu" aria-label={`${name}: copy, mirror or move it`} value="" onChange={(e) => acts[e.target.value]?.()}>
      <option value="">row …</option>
      {!list.record && <option value="copy">copy it</option>}
      {mirrors && !list.record && <option value="mirror">copy it to the other side</option>}
      {!first && <option value="up">move it up</option>}
      {!last && <option value="down">move it down</option>}
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
