import { useEffect, useMemo, useRef, useState } from 'react'
import type { Finding, Verdict } from '../api/types'

const SEVERITY: Record<Verdict, number> = { fouls: 0, tight: 1, unmeasured: 2, goes: 3 }
/** How long a finding that has just turned stays where it stood. */
const STAYS_MS = 6000

/** Worst first; within a verdict what is left after the doubt decides. */
export function worstFirst(findings: readonly Finding[]): Finding[] {
  const left = (f: Finding) => (f.margin ?? 0) - (f.u ?? 0)
  return [...findings].sort((a, b) => SEVERITY[a.verdict] - SEVERITY[b.verdict] || left(a) - left(b))
}

/** Findings in an order that stood before; those that it does not know come where they would stand by themselves. */
export function inOrder(findings: readonly Finding[], stood: readonly string[]): Finding[] {
  const known = new Map(findings.map((f) => [f.id, f]))
  const found = stood.flatMap((id) => known.get(id) ?? [])
  const old = new Set(stood)
  worstFirst(findings).forEach((f, i) => {
    if (!old.has(f.id)) found.splice(i, 0, f)
  })
  return found
}

/** Worst first, but what has just turned stays where it stood for a while: nobody loses the line that they look at. */
export function useStill(findings: readonly Finding[], of: string): Finding[] {
  const sorted = useMemo(() => worstFirst(findings), [findings])
  const order = sorted.map((f) => f.id).join(' ')
  const [stood, stand] = useState({ of, order })
  const latest = useRef({ of, order })
  useEffect(() => {
    latest.current = { of, order }
    if (stood.of !== of) {
      stand({ of, order })
      return undefined
    }
    if (stood.order === order) return undefined
    const timer = window.setTimeout(() => stand(latest.current), STAYS_MS)
    return () => window.clearTimeout(timer)
  }, [of, order, stood])
  return useMemo(() => (stood.of === of && stood.order !== order ? inOrder(findings, stood.order.split(' ')) : sorted), [findings, of, order, sorted, stood])
}
