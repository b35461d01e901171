import type { Finding, Verdict } from '../api/types'

const SEVERITY: Record<Verdict, number> = { fouls: 0, tight: 1, unmeasured: 2, goes: 3 }

/** Worst first; within a verdict what is left after the doubt decides. */
export function worstFirst(findings: readonly Finding[]): Finding[] {
  const left = (f: Finding) => (f.margin ?? 0) - (f.u ?? 0)
  return [...findings].sort((a, b) => SEVERITY[a.verdict] - SEVERITY[b.verdict] || left(a) - left(b))
}
