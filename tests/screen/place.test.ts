import { describe, expect, it } from 'vitest'
import type { Drawing } from '../../frontend/src/api/types'
import { crosses, lettersNear, nearerPart, placeLabels, uncrossed, type Box } from '../../frontend/src/board/place'

/** Numbers that look drawn at random and are the same each time (a linear congruence). */
function numbers(seed: number): () => number {
  let at = seed
  return () => (at = (at * 1103515245 + 12345) % 2147483648) / 2147483648
}

describe('letters of a picture', () => {
  it('stand near what they speak of, inside the board, and no two leaders cross', () => {
    for (let seed = 1; seed <= 20; seed += 1) {
      const next = numbers(seed)
      const marks = Array.from({ length: 14 }, (_, i) => ({ letter: String.fromCharCode(65 + i), address: `a${i}`, at: [60 + 500 * next(), 40 + 220 * next()] as const }))
      const placed = lettersNear(marks, [], 640, 300)
      expect(placed.map((b) => b.address).sort()).toEqual(marks.map((m) => m.address).sort())
      for (const [i, a] of placed.entries()) {
        expect(Math.hypot(a.bubble[0] - a.at[0], a.bubble[1] - a.at[1])).toBeLessThan(160)
        expect(a.bubble[0]).toBeGreaterThan(10)
        expect(a.bubble[0]).toBeLessThan(630)
        for (const b of placed.slice(i + 1)) expect(crosses(a, b)).toBe(false)
      }
    }
  })
  it('exchange places where leaders cross, and only there', () => {
    const a = { letter: 'A', address: 'a', at: [0, 0] as const, bubble: [100, 100] as const }
    const b = { letter: 'B', address: 'b', at: [100, 0] as const, bubble: [0, 100] as const }
    const c = { letter: 'C', address: 'c', at: [300, 0] as const, bubble: [300, 90] as const }
    expect(crosses(a, b)).toBe(true)
    const [first, second, third] = uncrossed([a, b, c])
    expect([first?.bubble, second?.bubble, third?.bubble]).toEqual([[0, 100], [100, 100], [300, 90]])
  })
})

describe('labels', () => {
  it('of neighbouring holes cover neither another nor a value', () => {
    const value: Box = { x: 150, y: 120, w: 60, h: 18 }
    const labels = Array.from({ length: 12 }, (_, i) => ({ text: `E1${i}`, at: [140 + 30 * (i % 4), 100 + 28 * Math.floor(i / 4)] as const, r: 5, towards: [1, 0] as const }))
    const placed = [...placeLabels(labels, [value], 400, 300), value]
    for (const [i, a] of placed.entries())
      for (const b of placed.slice(i + 1)) expect(Math.abs(a.x - b.x) >= (a.w + b.w) / 2 || Math.abs(a.y - b.y) >= (a.h + b.h) / 2).toBe(true)
  })
  it('stay on the board', () => {
    const [box] = placeLabels([{ text: 'G22', at: [2, 2], r: 4, towards: [-1, -1] }], [], 200, 100)
    expect((box?.x ?? 0) - (box?.w ?? 0) / 2).toBeGreaterThanOrEqual(0)
    expect((box?.y ?? 0) - (box?.h ?? 0) / 2).toBeGreaterThanOrEqual(0)
  })
})

describe('going nearer', () => {
  const drawing = (callouts: object[], gaps: object[] = []) => ({ x_low: -100, x_high: 300, y_low: 0, y_high: 200, callouts, gaps }) as unknown as Drawing

  it('shows what the letters speak of, with room round it, and never leaves the picture', () => {
    const near = nearerPart(drawing([{ x: 0, y: 10, stretch: [0, 10, 60, 10] }], [{ x1: 20, y1: 50, x2: 20, y2: 70 }]), 800, 300)
    expect([near?.x_low, near?.x_high, near?.y_low, near?.y_high].map((v) => Math.round(v ?? 0))).toEqual([-30, 90, 2, 78])
  })
  it('is offered neither for most of a picture nor for nothing', () => {
    expect(nearerPart(drawing([{ x: -90, y: 10 }, { x: 290, y: 190 }]), 800, 300)).toBeNull()
    expect(nearerPart(drawing([]), 800, 300)).toBeNull()
  })
  it('counts what the board makes of it: on a wide board a flat part comes out no larger', () => {
    const flat = drawing([{ x: -90, y: 10 }, { x: 290, y: 40 }])
    expect(nearerPart(flat, 400, 800)).toBeNull()
    expect(nearerPart(flat, 2000, 300)).not.toBeNull()
  })
})
