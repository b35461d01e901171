import { describe, expect, it } from 'vitest'
import type { ColumnRow } from '../../frontend/src/api/types'
import { pasted, saidIn, tableOf } from '../../frontend/src/rows/cells'

const column = (field: string, kind: string, choices: string[] = []): ColumnRow => ({ field, label: field, kind, choices, needed: true, mirrors: false })
const columns = [column('name', 'text'), column('body', 'choice', ['engine', 'chassis']), column('back', 'length'), column('step', 'whole')]

describe('cells copied from a table', () => {
  it('are lines of cells; a single one is typed as it is', () => {
    expect(tableOf('a\tb\r\n1\t2\r\n')).toEqual([['a', 'b'], ['1', '2']])
    expect(tableOf('1 1/2 in')).toEqual([])
    expect(tableOf('1\n2')).toEqual([['1'], ['2']])
  })
  it('go rightwards and down, and add the rows that are wanting', () => {
    const { acts, wrong } = pasted({ list: 'solids' }, columns, [3, 7], { row: 7, field: 'body' }, [['Chassis', '1 1/2 in'], ['engine', '20']], { evidence: { source: 'measured elsewhere' } })
    expect(wrong).toBe('')
    expect(acts).toEqual([
      { do: 'put', list: 'solids', row: 7, field: 'body', value: 'chassis' },
      { do: 'cell', list: 'solids', row: 7, field: 'back', typed: '1 1/2 in', source: 'measured elsewhere', tool: null },
      { do: 'add', list: 'solids', row: { evidence: { source: 'measured elsewhere' }, body: 'engine', back: '20' } },
    ])
  })
  it('are refused whole, with what cannot stand where', () => {
    expect(pasted({ list: 'solids' }, columns, [1], { row: 1, field: 'body' }, [['moon', '2']])).toEqual({ acts: [], wrong: '“moon” cannot stand in body, line 1. Nothing was pasted.' })
    expect(pasted({ list: 'solids' }, columns, [1], { row: 1, field: 'back' }, [['2', 'x']]).wrong).toContain('“x” cannot stand in step')
    expect(pasted({ list: 'solids' }, columns, [1], { row: 1, field: 'step' }, [['2', '3']]).wrong).toContain('more cells than there are columns')
  })
  it('say what each kind of column can hold', () => {
    expect(saidIn(column('x', 'yes'), 'YES')).toBe(true)
    expect(saidIn(column('x', 'yes'), 'perhaps')).toBeUndefined()
    expect(saidIn(column('x', 'numbers'), '3, 5;8')).toEqual([3, 5, 8])
    expect(saidIn(column('x', 'whole'), '')).toBeNull()
    expect(saidIn(column('x', 'words'), 'a; b ;')).toEqual(['a', 'b'])
  })
})
