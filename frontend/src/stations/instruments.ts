import { lazy, type ComponentType } from 'react'
import type { BoardData } from '../api/types'

export interface Instrument {
  readonly show: ComponentType<{ board: BoardData | undefined }>
  /** Lists that it shows itself. */
  readonly lists?: readonly string[]
}

/** What only one question has beside the general page, by its key; fetched when the question is opened. */
export const INSTRUMENTS: Readonly<Record<string, Instrument>> = {
  'survey.vehicle': { show: lazy(() => import('./survey/Survey')) },
  'survey.evidence': { show: lazy(() => import('./survey/AllSizes')) },
  'clear.pairs': { show: lazy(() => import('./clear/Solids')), lists: ['solids'] },
  'assemble.steps': { show: lazy(() => import('./assemble/StepList')), lists: ['steps'] },
  'assemble.joints': { show: lazy(() => import('./assemble/Joints')), lists: ['joints'] },
  'log.journal': { show: lazy(() => import('./log/Entries')), lists: ['log'] },
  'log.fits': { show: lazy(() => import('./log/Fits')), lists: ['fits'] },
  'log.items': { show: lazy(() => import('./log/Items')), lists: ['provisional'] },
  'log.money': { show: lazy(() => import('./log/Money')), lists: ['money'] },
}
