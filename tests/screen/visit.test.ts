import { describe, expect, it } from 'vitest'
import type { Catalogue } from '../../frontend/src/api/types'
import { questionOf } from '../../frontend/src/shell/questionOf'

const question = (key: string, station: string, ledger: string[]) => ({ key, station, ledger: ledger.map((k) => ({ key: k, letter: 'A' })), options: [], lists: [], faces: [] })

const catalogue = {
  dimensions: [{ key: 'ratio', station: 'line' }],
  questions: [question('line.half', 'line', ['ratio']), question('stack.strength', 'stack', ['ratio'])],
} as unknown as Catalogue

describe('where a size is asked for', () => {
  it('is where one looks, else its own station, and never a question that is not asked', () => {
    expect(questionOf(catalogue, 'ratio')?.key).toBe('line.half')
    expect(questionOf(catalogue, 'ratio', 'stack')?.key).toBe('stack.strength')
    expect(questionOf(catalogue, 'ratio', 'line', ['stack.strength'])?.key).toBe('stack.strength')
    expect(questionOf(catalogue, 'ratio', 'line', ['line.half', 'stack.strength'])?.key).toBe('line.half')
    expect(questionOf(catalogue, 'other')).toBeUndefined()
  })
})
