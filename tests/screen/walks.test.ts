import { describe, expect, it } from 'vitest'
import type { Face } from '../../frontend/src/api/types'
import { clockStops, dialAt, holeStops, pairsOf } from '../../frontend/src/run/walks'

const face = (holes: number, readings: unknown[] = []) => ({ holes: Array.from({ length: holes }, (_, i) => ({ n: i + 1 })), readings }) as unknown as Face

describe('a walk over the pairs of a pattern', () => {
  it('names every pair once, holds every hole by three at least, and ends at the axis', () => {
    const pairs = pairsOf(face(8))
    const keys = pairs.map(([a, b]) => [a ?? 0, b].sort((x, y) => x - y).join('-'))
    expect(new Set(keys).size).toBe(keys.length)
    for (let n = 1; n <= 8; n++) expect(pairs.filter(([a, b]) => a === n || b === n).length).toBeGreaterThan(3)
    expect(pairs.slice(-8).every(([a]) => a === null)).toBe(true)
  })

  it('leaves out what was read, whichever hole was named first', () => {
    const read = [
      { a: 2, b: 1, along: 'straight' },
      { a: null, b: 3, along: 'straight' },
      { a: 2, b: 3, along: 'up' },
    ]
    const keys = pairsOf(face(4, read)).map(([a, b]) => `${a ?? 'axis'} ${b}`)
    expect(keys).not.toContain('1 2')
    expect(keys).not.toContain('axis 3')
    expect(keys).toContain('2 3')
  })

  it('stores each figure as a distance with the tool in hand', () => {
    const [first] = holeStops(face(3), 'engine_face', undefined, 'E', 'outside edges')
    expect(first?.words).toBe('E1 to E2, outside edges')
    expect(first?.acts('128.4', 'digital calliper')).toEqual([{ do: 'rows', list: 'engine_face.readings', of: undefined, rows: [{ a: 1, b: 2, over: 'outside edges', value: '128.4', evidence: { source: 'measured', tool: 'digital calliper' } }] }])
  })
})

describe('a walk round the clock', () => {
  it('comes back to where it began', () => {
    const stops = clockStops('face', 4)
    expect(stops.map((s) => s.words)).toEqual(['face at 0°', 'face at 90°', 'face at 180°', 'face at 270°', 'face at 0° once more'])
    expect(stops[1]?.acts('0.12', '')).toEqual([{ do: 'rows', list: 'dials', rows: [{ of: 'face', at: '90 deg', value: '0.12' }] }])
  })

  it('is read by a dial that swings twice the offset, highest where it is told', () => {
    const made = { offset: 0.1, towards: 75, oval: 0, noise: 0 }
    expect(dialAt(75, made)).toBeCloseTo(0.1)
    expect(dialAt(255, made)).toBeCloseTo(-0.1)
    const oval = { ...made, offset: 0, oval: 0.08 }
    expect(dialAt(75, oval) - dialAt(165, oval)).toBeCloseTo(0.08)
    expect(Math.abs(dialAt(0, { ...made, offset: 0, noise: 0.004 }, () => 1))).toBeCloseTo(0.004)
  })
})
