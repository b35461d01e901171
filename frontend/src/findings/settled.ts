import type { Finding } from '../api/types'

/** What a reading did: findings that it settled, and those whose verdict it turned. */
export interface Settled {
  /** What was entered, in words. */
  readonly words: string
  /** Findings that were unmeasured and speak now. */
  readonly settled: readonly Finding[]
  /** Findings that spoke and now say something else. */
  readonly turned: readonly Finding[]
}

/** Holds the findings after an entry against those before it. */
export function settledBy(words: string, before: readonly Finding[], after: readonly Finding[]): Settled {
  const was = new Map(before.map((f) => [f.id, f.verdict]))
  const changed = after.filter((f) => was.get(f.id) !== f.verdict)
  return {
    words,
    settled: changed.filter((f) => f.verdict !== 'unmeasured' && (was.get(f.id) ?? 'unmeasured') === 'unmeasured'),
    turned: changed.filter((f) => f.verdict === 'unmeasured' ? was.has(f.id) : (was.get(f.id) ?? 'unmeasured') !== 'unmeasured'),
  }
}
