import { lazy, type ComponentType } from 'react'
import type { BoardData } from '../api/types'

interface Shown {
  board: BoardData | undefined
}

export interface Instrument {
  readonly show: ComponentType<Shown>
  readonly fetch: () => Promise<unknown>
  /** Lists that it shows itself. */
  readonly lists?: readonly string[]
}

const instrument = (fetch: () => Promise<{ default: ComponentType<Shown> }>, lists: readonly string[] = []): Instrument => ({ show: lazy(fetch), fetch, lists })

/** What only one question has beside the general page, by its key; not part of the first screen. */
export const INSTRUMENTS: Readonly<Record<string, Instrument>> = {
  'survey.start': instrument(() => import('./survey/Start')),
  'survey.parts': instrument(() => import('./survey/Parts'), ['parts']),
  'survey.evidence': instrument(() => import('./survey/AllSizes')),
  'mate.runout': instrument(() => import('../run/ClockWalk'), ['dials']),
  'mate.trim': instrument(() => import('../faces/Trim'), ['outlines']),
  'clear.pairs': instrument(() => import('./clear/Solids'), ['solids']),
  'assemble.steps': instrument(() => import('./assemble/StepList'), ['steps']),
  'assemble.joints': instrument(() => import('./assemble/Joints'), ['joints']),
  'log.journal': instrument(() => import('./log/Entries'), ['log']),
  'log.fits': instrument(() => import('./log/Fits'), ['fits']),
  'log.items': instrument(() => import('./log/Items'), ['provisional']),
  'log.money': instrument(() => import('./log/Money'), ['money']),
}
