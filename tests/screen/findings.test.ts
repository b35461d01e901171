import { describe, expect, it } from 'vitest'
import type { Finding, Verdict } from '../../frontend/src/api/types'
import { inOrder, worstFirst } from '../../frontend/src/findings/order'
import { settledBy } from '../../frontend/src/findings/settled'

const finding = (id: string, verdict: Verdict, margin = 0, u = 0) => ({ id, verdict, margin, u }) as Finding
const ids = (found: readonly Finding[]) => found.map((f) => f.id)

describe('findings', () => {
  it('come worst first, the least room after its doubt first', () => {
    expect(ids(worstFirst([finding('a', 'goes', 9), finding('b', 'fouls', -1), finding('c', 'fouls', -1, 2), finding('d', 'unmeasured'), finding('e', 'tight', 1)]))).toEqual(['c', 'b', 'e', 'd', 'a'])
  })
  it('stay where they stood when one turns; one that is new comes where it would stand, one that is gone goes', () => {
    const now = [finding('a', 'goes', 2), finding('b', 'goes', 3), finding('d', 'fouls', -4)]
    expect(ids(inOrder(now, ['b', 'gone', 'a']))).toEqual(['d', 'b', 'a'])
  })
})

describe('what a reading did', () => {
  it('is told apart: settled, turned, lapsed', () => {
    const before = [finding('a', 'unmeasured'), finding('b', 'goes'), finding('c', 'tight'), finding('d', 'goes')]
    const after = [finding('a', 'fouls'), finding('b', 'unmeasured'), finding('c', 'tight'), finding('d', 'tight'), finding('new', 'goes'), finding('open', 'unmeasured')]
    const told = settledBy('Nose 24', before, after)
    expect(told.words).toBe('Nose 24')
    expect(ids(told.settled)).toEqual(['a', 'new'])
    expect(ids(told.turned)).toEqual(['b', 'd'])
  })
})
