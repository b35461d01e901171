import type { Act, Op } from '../api/types'

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
