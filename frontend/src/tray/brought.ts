import { openPanel } from '../shell/looked'

/** A table that somebody brings along: its text or file, and where it was brought to. */
export interface Brought {
  readonly content: Blob | null
  readonly text: string
  /** The ledger, or a list. */
  readonly into: string
  /** The size that a column without names begins at. */
  readonly start: string
}

export const LEDGER = 'ledger'
let now: Brought = { content: null, text: '', into: LEDGER, start: '' }
export const broughtNow = (): Brought => now

/** Opens tables in and out, with what was brought along. */
export function bring(brought: Partial<Brought>): void {
  now = { content: null, text: '', into: LEDGER, start: '', ...brought }
  openPanel('table')
}
