import type { Act, ColumnRow } from '../api/types'
import { isFigure, saidIn, type TablePlace } from './cells'
import type { AnyRow } from './rows'

/** Rows that a hand marked, by number, in the order of the table. */
export const inOrder = (rows: readonly AnyRow[], marked: ReadonlySet<number>): AnyRow[] => rows.filter((r) => marked.has(r.n))

/** A mark put or taken; with Shift from the last one to this. */
export function toggled(rows: readonly AnyRow[], marked: ReadonlySet<number>, n: number, from: number | null): Set<number> {
  const next = new Set(marked)
  const [a, b] = [rows.findIndex((r) => r.n === from), rows.findIndex((r) => r.n === n)]
  if (from !== null && a >= 0) rows.slice(Math.min(a, b), Math.max(a, b) + 1).forEach((r) => next.add(r.n))
  else if (!next.delete(n)) next.add(n)
  return next
}

export type ForMarked = 'copy' | 'mirror' | 'up' | 'down' | 'remove'

/** What is done with every marked row, in the order that leaves the others where they are. */
export function actsOf(place: TablePlace, rows: readonly AnyRow[], marked: ReadonlySet<number>, what: ForMarked): Act[] {
  const chosen = inOrder(rows, marked)
  if (what === 'remove') return chosen.map((r) => ({ do: 'remove', ...place, row: r.n }))
  if (what === 'copy' || what === 'mirror') return chosen.map((r) => ({ do: 'copy', ...place, row: r.n, mirror: what === 'mirror' }))
  // A block against the end stays where it is; the others follow it.
  const [order, by] = what === 'up' ? [[...rows], -1 as const] : [[...rows].reverse(), 1 as const]
  const stuck = order.findIndex((r) => !marked.has(r.n))
  return order.slice(stuck < 0 ? order.length : stuck).filter((r) => marked.has(r.n)).map((r) => ({ do: 'move', ...place, row: r.n, by }))
}

/** One column of every marked row as the first of them has it: nobody read it there, so a figure is a guess. */
export function asTheFirst(place: TablePlace, rows: readonly AnyRow[], marked: ReadonlySet<number>, column: ColumnRow): Act[] {
  const [first, ...rest] = inOrder(rows, marked)
  const value = first?.[column.field]
  if (first === undefined || value === undefined) return []
  return rest.map((r): Act =>
    isFigure(column)
      ? { do: 'cell', ...place, row: r.n, field: column.field, typed: (value as string | null) || null, source: 'guess', tool: null }
      : { do: 'put', ...place, row: r.n, field: column.field, value: (typeof value === 'string' ? saidIn(column, value) : value) as never },
  )
}
