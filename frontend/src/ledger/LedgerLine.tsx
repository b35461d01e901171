import { lazy, memo, Suspense, useState } from 'react'
import type { Build, DimensionRow, Resolved, System } from '../api/types'
import { figure, written } from '../api/units'
import { shownUnit } from '../entry/acts'
import { DimensionField } from '../entry/DimensionField'
import { useBuild, useTrial } from '../shell/buildContext'
import { light, useLit } from '../shell/looked'
import { sourceClass, sourceMark } from './source'
import './ledger.css'

const StatementEditor = lazy(() => import('./StatementEditor'))

function hint(row: DimensionRow, q: Resolved | undefined): string {
  if (q?.status === 'contradiction') return 'two statements cannot both hold: choose one'
  if (q?.status === 'lapsed') return `lapsed: ${q.detail}. Take it again: ${row.how}`
  if (q?.status === 'word') return `“${q.detail}” hides a number: ${row.how}`
  if (q?.status === 'bad entry' || q?.status === 'question') return q.detail
  return row.how
}

interface Props {
  letter: string
  row: DimensionRow
}

/** One dimension: callout letter, name, entry, ±, source and tool; opens to all that was ever said of it. */
export function LedgerLine({ letter, row }: Props) {
  const { state, assessment, system } = useBuild()
  const trial = useTrial()
  const settles = assessment.next.find((n) => n.address === row.key)
  return (
    <Line
      letter={letter}
      row={row}
      document={state.document}
      q={assessment.quantities[row.key]}
      system={system}
      trying={trial?.values[row.key] !== undefined}
      advice={settles ? `take it with ${settles.tool || 'a better source'}${settles.pm_wanted == null ? '' : ` to ± ${written(settles.pm_wanted, row.kind, system)}`}: ${settles.reason}` : ''}
    />
  )
}

interface LineProps extends Props {
  document: Build
  q: Resolved | undefined
  system: System
  trying: boolean
  advice: string
}

/** Drawn again only when something of its own changed: a drag leaves most lines alone. */
const Line = memo(function Line({ letter, row, document, q, system, trying, advice }: LineProps) {
  const lit = useLit(row.key)
  const [open, setOpen] = useState(false)
  const missing = q?.value == null
  const unsourced = q?.source === 'not said'
  const unit = shownUnit(row, system)
  const lapsed = document.dims[row.key]?.statements.filter((s) => s.lapsed != null) ?? []
  return (
    <li
      id={`line-${row.key}`}
      className={`line ${lit ? 'lit' : ''} ${open ? 'open' : ''}`}
      data-unmeasured={missing}
      onPointerEnter={() => light(row.key)}
      onPointerLeave={() => light('')}
      onFocus={() => light(row.key)}
    >
      <span className="letter">{letter}</span>
      <span className="name">
        {row.name}
        {(missing || unsourced || advice) && <span className="how">{missing ? hint(row, q) : unsourced ? 'say where it comes from, a paper or a person: until then it closes nothing' : advice}</span>}
      </span>
      <span className="entry">
        {sourceMark(q?.source) && !missing && <span className="mark">{sourceMark(q?.source)}</span>}
        {q?.status === 'word' && <span className="word">“{q.detail}”</span>}
        {missing && lapsed.length > 0 && <s className="mono soft">{lapsed.at(-1)?.takes.at(-1)?.typed}</s>}
        <DimensionField at="figure" row={row} q={q} system={system} lit={lit} trying={trying} />
        <span className="unit soft">{unit}</span>
      </span>
      <span className="pm mono">{missing ? '' : `± ${figure(q.pm, row.kind, system, q.pm)}`}</span>
      <button type="button" className={`source ${sourceClass(q?.source)}`} aria-expanded={open} onClick={() => setOpen(!open)}>
        <span className="visually-hidden">Evidence of {row.name}: </span>
        {missing ? (q?.status ?? 'missing') : `${q.source ?? ''}${q.tool ? ` · ${q.tool}` : ''}${q.takes > 1 ? ` · ${q.takes} takes` : ''}`}
        {q?.provisional ? ' · provisional' : ''}
      </button>
      {open && (
        <Suspense fallback={null}>
          <StatementEditor row={row} unit={unit} />
        </Suspense>
      )}
    </li>
  )
})
