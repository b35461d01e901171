import type { Act, ColumnRow } from '../api/types'

const WORDS_KINDS = new Set(['text', 'choice', 'yes', 'whole', 'numbers', 'words'])

/** A column of a table; what is not said in a nullable one is nothing, not an empty word. */
export type TableColumn = ColumnRow & { readonly nullable?: boolean }

/** Whether a column holds figures as they are typed, with a unit and evidence. */
export const isFigure = (column: ColumnRow): boolean => !WORDS_KINDS.has(column.kind)

/** What a text says in a column that holds no figure; undefined where it cannot stand there. */
export function saidIn(column: ColumnRow, text: string): unknown {
  const trimmed = text.trim()
  if (column.kind === 'whole') return trimmed === '' ? null : /^\d+$/.test(trimmed) ? Number(trimmed) : undefined
  if (column.kind === 'numbers') return /^[\d\s,;]*$/.test(trimmed) ? (trimmed.match(/\d+/g) ?? []).map(Number) : undefined
  if (column.kind === 'yes') return /^(yes|true|1|x)$/i.test(trimmed) ? true : /^(no|false|0|)$/i.test(trimmed) ? false : undefined
  if (column.kind === 'choice') return column.choices.find((c) => c.toLowerCase() === trimmed.toLowerCase())
  if (column.kind === 'words') return trimmed.split(';').map((w) => w.trim()).filter(Boolean)
  return trimmed
}

/** A list, or the list of one row of it. */
export interface TablePlace {
  readonly list: string
  readonly of?: number
}

/** The act that puts a text from another table into a cell; null where it cannot stand there. Nobody read its figures here. */
function actOf(list: TablePlace, column: ColumnRow, row: number, text: string): Act | null {
  if (isFigure(column)) return { do: 'cell', ...list, row, field: column.field, typed: text.trim() || null, source: 'measured elsewhere', tool: null }
  const value = saidIn(column, text)
  return value === undefined ? null : { do: 'put', ...list, row, field: column.field, value: value as never }
}

/** Lines and cells of a text that was copied from a table; a single cell is none. */
export function tableOf(text: string): string[][] {
  const lines = text.replace(/\r/g, '').replace(/\n+$/, '').split('\n').map((line) => line.split('\t'))
  return lines.length > 1 || (lines[0]?.length ?? 0) > 1 ? lines : []
}

export interface Pasted {
  readonly acts: Act[]
  /** What could not stand where it was put, in words; nothing is pasted then. */
  readonly wrong: string
}

/** Cells that were copied elsewhere, from one cell rightwards and down; rows that there are not yet are added, with what a fresh one has. */
export function pasted(list: TablePlace, columns: readonly ColumnRow[], numbers: readonly number[], at: { row: number; field: string }, table: readonly (readonly string[])[], fresh: Readonly<Record<string, unknown>> = {}): Pasted {
  const [first, left] = [numbers.indexOf(at.row), columns.findIndex((c) => c.field === at.field)]
  const acts: Act[] = []
  for (const [i, line] of table.entries()) {
    const row = numbers[first + i]
    const added: Record<string, unknown> = {}
    for (const [j, text] of line.entries()) {
      const column = columns[left + j]
      if (column === undefined) return { acts: [], wrong: `Line ${i + 1} has more cells than there are columns from here. Nothing was pasted.` }
      const value = isFigure(column) ? text.trim() || null : saidIn(column, text)
      if (value === undefined) return { acts: [], wrong: `“${text}” cannot stand in ${column.label}, line ${i + 1}. Nothing was pasted.` }
      const act = row === undefined ? null : actOf(list, column, row, text)
      if (act !== null) acts.push(act)
      else added[column.field] = value
    }
    if (row === undefined) acts.push({ do: 'add', ...list, row: { ...fresh, ...added } as Record<string, never> })
  }
  return { acts, wrong: '' }
}

const WHOLE = /^\d+$/
export const checkWhole = (text: string) => (text === '' || WHOLE.test(text) ? '' : `“${text}” is no whole number.`)
export const checkNumbers = (text: string) => (/^[\d\s,;]*$/.test(text) ? '' : `“${text}” is no list of numbers: 3, 5, 8.`)
export const checkNumber = (text: string) => (WHOLE.test(text) && Number(text) > 0 ? '' : 'A row has a whole number above zero.')
