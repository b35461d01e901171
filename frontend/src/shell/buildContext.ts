import { createContext, useContext } from 'react'
import type { Assessment, BuildState, Catalogue, DimensionRow, Op, System, TrialState } from '../api/types'

/** A change that is looked at before it is kept: what it does, its patch, and what came of it. */
export interface Trial {
  /** Figures that were dragged or tried, by dimension. */
  readonly values: Readonly<Record<string, number>>
  /** What was typed or chosen and would spoil readings or turn findings for the worse. */
  readonly entries: readonly { readonly why: string; readonly ops: Op[] }[]
  readonly ops: Op[]
  readonly result: TrialState | null
}

/** Everything that the stations need of the open build, and what they may do to it. */
export interface BuildContext {
  readonly state: BuildState
  readonly catalogue: Catalogue
  readonly dimension: (key: string) => DimensionRow | undefined
  readonly assessment: Assessment
  readonly boards: BuildState['boards']
  readonly trial: Trial | null
  readonly system: System
  readonly lit: string
  readonly light: (address: string) => void
  readonly openFinding: string
  readonly setOpenFinding: (id: string) => void
  readonly tryValues: (values: Readonly<Record<string, number>>) => void
  readonly keep: () => Promise<void>
  readonly drop: () => void
  /** Keeps a change, unless it would spoil readings or turn a finding for the worse, or is meant as a trial: then it becomes one. */
  readonly enter: (ops: Op[], why: string, asTrial?: boolean) => Promise<string | null>
  readonly change: (ops: Op[], why: string) => Promise<string | null>
  readonly step: (kind: 'undo' | 'redo') => Promise<void>
  readonly saving: boolean
}

export const BuildContextHome = createContext<BuildContext | null>(null)

export function useBuild(): BuildContext {
  const found = useContext(BuildContextHome)
  if (found === null) throw new Error('useBuild needs BuildProvider above it.')
  return found
}
