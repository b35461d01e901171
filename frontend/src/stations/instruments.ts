import type { ComponentType } from 'react'
import type { BoardData } from '../api/types'
import { Joints, StepList } from './assemble/StepList'
import { Entries } from './log/Entries'
import { Fits } from './log/Fits'
import { Items, MoneyLines } from './log/lists'
import { AllSizes } from './survey/AllSizes'
import { About } from './survey/Survey'
import { Solids } from './clear/Solids'

export interface Instrument {
  readonly show: ComponentType<{ board: BoardData | undefined }>
  /** Lists that it shows itself. */
  readonly lists?: readonly string[]
}

/** What only one question has beside the general page, by its key. */
export const INSTRUMENTS: Readonly<Record<string, Instrument>> = {
  'survey.vehicle': { show: About },
  'survey.evidence': { show: AllSizes },
  'clear.pairs': { show: Solids, lists: ['solids'] },
  'assemble.steps': { show: StepList, lists: ['steps'] },
  'assemble.joints': { show: Joints, lists: ['joints'] },
  'log.journal': { show: Entries, lists: ['log'] },
  'log.fits': { show: Fits, lists: ['fits'] },
  'log.items': { show: Items, lists: ['provisional'] },
  'log.money': { show: MoneyLines, lists: ['money'] },
}
