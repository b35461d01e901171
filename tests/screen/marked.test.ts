import { describe, expect, test } from 'vitest'
import { actsOf, asTheFirst, toggled } from '../../frontend/src/rows/marked'
import type { AnyRow } from '../../frontend/src/rows/rows'

const rows = [5, 2, 9, 7].map((n) => ({ n, name: `row ${n}`, d: n === 2 ? '8 mm' : null, kind: 'rag' })) as unknown as AnyRow[]
const place = { list: 'mounts' }
const moves = (marked: number[], what: 'up' | 'down') => actsOf(place, rows, new Set(marked), what).map((a) => ('row' in a ? a.row : 0))

describe('marked rows', () => {
  test('a mark toggles, and with Shift reaches to the last one either way', () => {
    expect([...toggled(rows, new Set([5]), 5, null)]).toEqual([])
    expect([...toggled(rows, new Set([9]), 5, 9)].sort()).toEqual([2, 5, 9])
    expect([...toggled(rows, new Set([2]), 7, 2)].sort()).toEqual([2, 7, 9])
  })
  test('a block moves as a whole, and what stands at the end stays', () => {
    expect(moves([2, 9], 'up')).toEqual([2, 9])
    expect(moves([2, 9], 'down')).toEqual([9, 2])
    expect(moves([5, 2], 'up')).toEqual([])
    expect(moves([5, 9], 'up')).toEqual([9])
    expect(moves([5, 2, 9, 7], 'down')).toEqual([])
  })
  test('what is copied or removed is so in the order of the table', () => {
    expect(actsOf({ list: 'fits.gaps', of: 3 }, rows, new Set([9, 5]), 'remove')).toEqual([
      { do: 'remove', list: 'fits.gaps', of: 3, row: 5 },
      { do: 'remove', list: 'fits.gaps', of: 3, row: 9 },
    ])
    expect(actsOf(place, rows, new Set([7]), 'mirror')).toEqual([{ do: 'copy', list: 'mounts', row: 7, mirror: true }])
  })
  test('a figure as in the first is a guess, a choice is a choice', () => {
    const column = (field: string, kind: string) => ({ field, kind, label: field, choices: ['rag', 'loop'], needed: false, source_in: '', mirrors: false })
    expect(asTheFirst(place, rows, new Set([2, 7]), column('d', 'length'))).toEqual([{ do: 'cell', list: 'mounts', row: 7, field: 'd', typed: '8 mm', source: 'guess', tool: null }])
    expect(asTheFirst(place, rows, new Set([2, 7]), column('kind', 'choice'))).toEqual([{ do: 'put', list: 'mounts', row: 7, field: 'kind', value: 'rag' }])
  })
})
