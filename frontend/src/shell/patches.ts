import type { Build, Op, Statement } from '../api/types'

const op = (kind: Op['op'], path: string, value?: unknown): Op => ({ op: kind, path, value })

/** What stands at a path of the document (JSON Pointer, RFC 6901); undefined where nothing does. */
export function valueAt(document: unknown, path: string): unknown {
  const step = (at: unknown, name: string): unknown => (typeof at === 'object' && at !== null ? (at as Record<string, unknown>)[name] : undefined)
  return path.split('/').slice(1).reduce(step, document)
}

/** Whether something was said there already: what is new changes nothing that anyone has built on. */
export function isSaid(document: unknown, path: string): boolean {
  const value = valueAt(document, path)
  return value != null && value !== '' && value !== false && !(Array.isArray(value) && value.length === 0)
}

/** An entry in words: what stood there, and what was typed. */
export function entryWords(document: unknown, ops: readonly Op[]): string {
  const shown = (value: unknown): string => {
    if (Array.isArray(value)) return value.map((take: { typed?: string }) => take.typed ?? '').filter(Boolean).join(' / ')
    return value == null || typeof value === 'object' ? '' : String(value as string | number | boolean)
  }
  const [first] = ops
  if (first === undefined) return ''
  if (first.op === 'remove') return 'removed'
  const words = shown(first.value)
  return words === '' ? '' : `${shown(valueAt(document, first.path)) || 'nothing'} → ${words}`
}

/** What a trial puts at a path instead of what is stored; undefined where it leaves it alone. */
export function triedAt(ops: readonly Op[] | undefined, path: string): unknown {
  return ops?.findLast((o) => o.path === path)?.value
}

function freshId(statements: readonly Statement[]): string {
  let n = statements.length + 1
  while (statements.some((s) => s.id === `s${n}`)) n += 1
  return `s${n}`
}

/** A statement as a new reading taken now, in the state that the build is in. */
function newStatement(build: Build, id: string, typed: string, unit: string, source: string, tool: string): unknown {
  return { id, source, tool: tool || null, state: source === 'measured' ? build.state : {}, takes: [{ typed, unit: unit || null, at: new Date().toISOString() }] }
}

/** Ops that enter a figure on a ledger line: into the statement that stands, or as a new one. */
export function enterFigure(build: Build, key: string, standing: string, typed: string, unit: string, tool: string, isWord: boolean): Op[] {
  const dimension = build.dims[key]
  const statements = dimension?.statements ?? []
  const index = statements.findIndex((s) => s.id === standing && s.lapsed === null)
  const source = isWord ? 'eye word' : 'measured'
  if (dimension === undefined) return [op('add', `/dims/${key}`, { statements: [newStatement(build, 's1', typed, unit, source, isWord ? '' : tool)] })]
  const found = statements[index]
  if (found === undefined || (found.source === 'eye word') !== isWord)
    return [op('add', `/dims/${key}/statements/-`, newStatement(build, freshId(statements), typed, unit, source, isWord ? '' : tool))]
  return [op('replace', `/dims/${key}/statements/${index}/takes`, [{ typed, unit: unit || null, at: new Date().toISOString() }])]
}

/** Ops that set a chosen dimension to a planned figure, as a trial does: its evidence becomes the drawing. */
export function planFigure(build: Build, key: string, typed: string, unit: string): Op[] {
  const old = build.dims[key]?.statements[0]
  const statement = { id: 's1', source: 'drawing', pm: old?.source === 'drawing' ? old.pm : null, note: 'planned', takes: [{ typed, unit: unit || null }] }
  return [op('add', `/dims/${key}`, { statements: [statement] })]
}

export function addStatement(build: Build, key: string, typed: string, unit: string, source: string, tool: string): Op[] {
  const statements = build.dims[key]?.statements
  if (statements === undefined) return [op('add', `/dims/${key}`, { statements: [newStatement(build, 's1', typed, unit, source, tool)] })]
  return [op('add', `/dims/${key}/statements/-`, newStatement(build, freshId(statements), typed, unit, source, tool))]
}

export function addTake(key: string, index: number, typed: string, unit: string): Op[] {
  return [op('add', `/dims/${key}/statements/${index}/takes/-`, { typed, unit: unit || null, at: new Date().toISOString() })]
}

export function setStatementField(key: string, index: number, field: 'source' | 'tool' | 'pm' | 'note', value: string): Op[] {
  return [op('add', `/dims/${key}/statements/${index}/${field}`, value === '' && field !== 'note' ? null : value)]
}

export function removeStatement(build: Build, key: string, index: number): Op[] {
  const dimension = build.dims[key]
  const unchoose = dimension?.chosen === dimension?.statements[index]?.id ? [op('add', `/dims/${key}/chosen`, null)] : []
  return [...unchoose, op('remove', `/dims/${key}/statements/${index}`)]
}

export function choose(key: string, id: string | null): Op[] {
  return [op('add', `/dims/${key}/chosen`, id)]
}
