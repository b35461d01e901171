import { ApiProblem } from '../api/client'
import type { Station } from '../api/types'

/** What has to be told: plain words, and what can be done about it. */
export interface Notice {
  readonly text: string
  /** `data` is trouble of the data itself: it goes when something is stored again; `trial` that of a trial: it goes with the next that is answered; `theirs` is what another screen did. */
  readonly kind: 'trouble' | 'stepped' | 'data' | 'trial' | 'theirs'
  /** Takes back what was just undone or redone. */
  readonly back?: 'undo' | 'redo'
  /** A change of another hand that may be stepped over all the same. */
  readonly theirs?: { readonly kind: 'undo' | 'redo'; readonly version: number }
  /** Where it happened. */
  readonly place?: { readonly station: Station; readonly address: string }
}

/** Whether the server said what is wrong; else it did not answer. */
export const told = (error: unknown): error is ApiProblem => error instanceof ApiProblem && error.problem.status > 0
/** A full disk, a locked or damaged file, a busy build: it is waited for. What Pindo failed at is not asked again. */
export const passing = (error: ApiProblem): boolean => error.problem.status === 503 || error.problem.status === 507
export const answered = (error: unknown): error is ApiProblem => told(error) && !passing(error)
export const wordsOf = (error: unknown): string => (told(error) ? error.message : 'Pindo does not answer. What you typed and tried is kept here, and asked again.')
