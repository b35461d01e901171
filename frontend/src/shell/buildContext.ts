import { createContext, useContext } from 'react'
import type { Act, Assessment, Boards, BuildState, Catalogue, DimensionRow, System, TrialState } from '../api/types'
import type { Trying } from '../entry/desk'
import type { Settled } from '../findings/settled'

/** A change that is looked at before it is kept: what was tried, its acts, and what came of it. */
export interface Trial extends Trying {
  readonly acts: Act[]
  readonly result: TrialState | null
  /** Whether only the question that is looked at has followed so far: a hand is moving. */
  readonly moving: boolean
}

/** Everything that the stations need of the open build, and what they may do to it. Entries of single fields go over the desk. */
export interface BuildContext {
  readonly state: BuildState
  readonly catalogue: Catalogue
  readonly dimension: (key: string) => DimensionRow | undefined
  readonly assessment: Assessment
  /** Boards by question, as far as they are here: the one that is looked at, and the profile under ''. */
  readonly boards: Boards
  readonly system: System
  readonly tryValues: (values: Readonly<Record<string, number>>) => void
  readonly keep: () => Promise<void>
  readonly drop: () => void
  /** Stores what a form or a button says; answers with what is wrong, or null. */
  readonly change: (acts: readonly Act[], why: string) => Promise<string | null>
  /** Steps over one's own last change, or over the change ``of`` that was named. */
  readonly step: (kind: 'undo' | 'redo', of?: number) => Promise<void>
  readonly saving: boolean
  /** What the last reading of this screen settled. */
  readonly settled: Settled | null
}

/** The trial, apart from all the rest: while a hand moves it changes with every move, the rest with every answer. */
export const TrialHome = createContext<Trial | null>(null)

export const useTrial = (): Trial | null => useContext(TrialHome)

export const BuildContextHome = createContext<BuildContext | null>(null)

export function useBuild(): BuildContext {
  const found = useContext(BuildContextHome)
  if (found === null) throw new Error('useBuild needs BuildProvider above it.')
  return found
}
