import { applyPatches, enablePatches, type Patch } from 'immer'
import type { Assessment, Boards, BuildChange, BuildState, Finding, NearState, TrialState } from './types'

enablePatches()

type Differing = BuildChange | TrialState

const parts = (pointer: string) =>
  pointer
    .split('/')
    .slice(1)
    .map((p) => p.replaceAll('~1', '/').replaceAll('~0', '~'))

/** An answer tells what it makes different; the rest stands as it was. */
export function differing(stood: Assessment, now: Differing): Assessment {
  const altered = now.altered as Record<string, Partial<Finding> | undefined>
  const findings = new Map([...stood.findings, ...now.findings].map((f) => [f.id, altered[f.id] ? { ...f, ...altered[f.id] } : f]))
  const gone = new Set(now.gone)
  const quantities = Object.fromEntries(Object.entries({ ...stood.quantities, ...now.quantities }).filter(([address]) => !gone.has(address)))
  return {
    findings: (now.order ?? stood.findings.map((f) => f.id)).flatMap((id) => findings.get(id) ?? []),
    quantities,
    next: now.next ?? stood.next,
    tallies: now.tallies,
    by_question: { ...stood.by_question, ...now.by_question },
    asked: now.asked ?? stood.asked,
    opens: now.opens ?? stood.opens,
  }
}

/** What one question says of a trial, laid on what is stored; all the others stand as the last whole answer left them. */
export function nearer(stored: Assessment, last: Assessment, now: NearState, question: string): Assessment {
  const altered = now.altered as Record<string, Partial<Finding> | undefined>
  const without = new Set(now.without)
  const own = new Map([...stored.findings.filter((f) => f.question === question && !without.has(f.id)), ...now.findings].map((f) => [f.id, altered[f.id] ? { ...f, ...altered[f.id] } : f]))
  const kept = last.findings.flatMap((f) => (f.question === question ? (own.get(f.id) ?? []) : f))
  const there = new Set(kept.map((f) => f.id))
  return { ...last, findings: [...kept, ...[...own.values()].filter((f) => !there.has(f.id))], quantities: { ...stored.quantities, ...now.quantities } }
}

/** The build at the version that a change leads to. */
export function changed(was: BuildState, by: BuildChange): BuildState {
  const patches = by.document.map((op) => ({ ...op, path: parts(String(op['path'])) })) as Patch[]
  const { version, tag, updated_at, can_undo, can_redo, stepped, between } = by
  return { ...was, version, tag, updated_at, can_undo, can_redo, stepped, between, document: applyPatches(was.document, patches), assessment: differing(was.assessment, by) }
}

export const boardsWith = (stood: Boards | undefined, now: Boards): Boards => ({ ...stood, ...now })
