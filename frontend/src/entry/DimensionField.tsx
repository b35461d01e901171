import type { Act, DimensionRow, Resolved, System } from '../api/types'
import { figure } from '../api/units'
import { sourceClass } from '../ledger/source'
import { readingOf, shownUnit } from './acts'
import { FigureField } from './FigureField'
import { useDesk } from './useDesk'
import './entry.css'

interface Props {
  /** Where the field stands: a size may be typed in its ledger line and in the picture. */
  at: string
  row: DimensionRow
  q: Resolved | undefined
  system: System
  lit?: boolean
  trying?: boolean
  leave?: (back: boolean) => void
}

/** The field of a dimension: what stands there, set as its source is, and what entering does. */
export function DimensionField({ at, row, q, system, lit = false, trying = false, leave }: Props) {
  const desk = useDesk()
  const unit = shownUnit(row, system)
  const missing = q?.value == null
  // What is asked about stands in its field, and counts for nothing.
  const told = q?.value ?? q?.asked
  const acts = (text: string): Act[] => [readingOf(row, text, system, desk.now().tool)]
  return (
    <FigureField
      id={`${at}-${row.key}`}
      label={`${row.name}${unit ? `, ${unit}` : ''}${at === 'board' ? ', in the picture' : ''}`}
      shown={told == null ? '' : figure(told, row.kind, system, 0).replace('−', '-')}
      kind={row.kind}
      unit={unit}
      lit={lit}
      className={`${sourceClass(q?.source)} ${missing ? 'none' : ''} ${trying ? 'trying' : ''}`}
      dimension={row.key}
      acts={acts}
      leave={leave}
    />
  )
}
