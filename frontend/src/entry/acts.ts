import type { Act, DimensionRow, Op, System } from '../api/types'
import { unitOf } from '../api/units'

const op = (kind: Op['op'], path: string, value?: unknown): Op => ({ op: kind, path, value })

/** Operations as they are. */
export const patch = (...ops: Op[]): Act => ({ do: 'patch', ops: ops as unknown as Record<string, never>[] })

/** Puts a value at a place of the document. */
export const putAt = (path: string, value: unknown): Act => patch(op('add', path, value))

/** The same for a place inside a row, provided the row there is still the one that was meant. */
export const putInRow = (row: string, id: string | number, key: 'id' | 'n', path: string, value: unknown): Act => patch(op('test', `${row}/${key}`, id), op('add', `${row}/${path}`, value))

export const removeAt = (path: string): Act => patch(op('remove', path))

/** Takes a statement out, and lets the ladder decide where it was the chosen one. */
export function removeStatement(key: string, index: number, id: string, chosen: string | null | undefined): Act {
  const unchoose = chosen === id ? [op('add', `/dims/${key}/chosen`, null)] : []
  return patch(op('test', `/dims/${key}/statements/${index}/id`, id), ...unchoose, op('remove', `/dims/${key}/statements/${index}`))
}

/** The unit that a dimension is shown and typed in. */
export const shownUnit = (row: DimensionRow, system: System) => unitOf(row.kind, system) || row.unit

/** A figure typed for a size, in the unit that its field shows, with the tool in hand; of a part on the shelf by its number. */
export const readingOf = (row: DimensionRow, typed: string, system: System, tool: string, part?: number): Act => ({ do: 'read', key: row.key, typed, unit: shownUnit(row, system) || null, part, tool: (tool || null) as null })
