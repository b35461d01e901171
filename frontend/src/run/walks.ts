import type { Act, Face } from '../api/types'

/** A reading that is asked for next: what it is called, and what entering it does. */
export interface Stop {
  readonly id: string
  readonly words: string
  readonly acts: (typed: string, tool: string) => Act[]
}
export type Over = 'centres' | 'outside edges' | 'inside edges'

const pair = (a: number | null, b: number) => `${a ?? 0}-${b}`

/** Pairs of holes worth reading, in the order in which hands go round: to the next, the one after it, the one opposite, and from the axis; those that are there are left out. */
export function pairsOf(face: Face): (readonly [number | null, number])[] {
  const holes = face.holes.map((h) => h.n)
  const at = (i: number) => holes[i % holes.length] ?? 0
  const count = holes.length
  const steps = [...new Set([1, 2, Math.floor(count / 2)])].filter((s) => s > 0 && s < count)
  const round = steps.flatMap((step) => holes.map((a, i): readonly [number, number] => [a, at(i + step)]))
  const taken = new Set(face.readings.filter((r) => r.along === 'straight').flatMap((r) => (r.b == null ? [] : [pair(r.a ?? null, r.b), ...(r.a == null ? [] : [pair(r.b, r.a)])])))
  const seen = new Set<string>()
  return [...round, ...holes.map((b): readonly [null, number] => [null, b])].filter(([a, b]) => {
    const [one, other] = [pair(a, b), pair(b, a ?? 0)]
    const fresh = a !== b && !taken.has(one) && !seen.has(one) && !(a !== null && seen.has(other))
    seen.add(one)
    return fresh
  })
}

/** The walk over a pattern: each figure is a distance more. */
export function holeStops(face: Face, list: string, of: number | undefined, letter: string, over: Over): Stop[] {
  return pairsOf(face).map(([a, b]) => ({
    id: `walk-${list.replaceAll('.', '-')}-${pair(a, b)}`,
    words: `${a === null ? 'the axis' : `${letter}${a}`} to ${letter}${b}${over === 'centres' ? '' : `, ${over}`}`,
    acts: (typed, tool) => [{ do: 'rows', list: `${list}.readings`, of, rows: [{ a, b, over, value: typed, evidence: { source: 'measured', tool: tool || null } }] }] as unknown as Act[],
  }))
}

/** The walk round the clock: the dial is read at so many positions, the first once more. */
export function clockStops(of: 'bore' | 'face', count: number): Stop[] {
  return Array.from({ length: count + 1 }, (_, i) => {
    const at = ((i * 360) / count) % 360
    const again = i === count ? ' once more' : ''
    return {
      id: `walk-dials-${of}-${i}`,
      words: `${of} at ${at.toFixed(at % 1 === 0 ? 0 : 1)}°${again}`,
      acts: (typed: string) => [{ do: 'rows', list: 'dials', rows: [{ of, at: `${at} deg`, value: typed }] }] as unknown as Act[],
    }
  })
}

/** What a dial shows that an off-centre, oval bore is swept by: degrees clockwise from 12. */
export function dialAt(degrees: number, { offset, towards, oval, noise }: { offset: number; towards: number; oval: number; noise: number }, random: () => number = Math.random): number {
  const t = (degrees * Math.PI) / 180
  const high = (towards * Math.PI) / 180
  return offset * Math.cos(t - high) + (oval / 2) * Math.cos(2 * (t - high)) + (random() - 0.5) * 2 * noise
}
