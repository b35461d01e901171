import { lazy, memo, Suspense } from 'react'
import type { Finding, Station, System } from '../api/types'
import { openFinding, useLooked } from '../shell/looked'
import { GapGauge } from './GapGauge'
import { VerdictGlyph } from './VerdictGlyph'
import './findings.css'

const FindingBody = lazy(() => import('./FindingBody'))

interface Props {
  finding: Finding
  system: System
  elsewhere: Station | null
}

/**
 * One finding: glyph, sentence, gauge; opened, all that stands behind it.
 * While something is dragged a finding that stays as it is is not drawn again.
 */
export const FindingRow = memo(function FindingRow({ finding, system, elsewhere }: Props) {
  const open = useLooked((l) => l.finding === finding.id)
  const conditions = [finding.condition, finding.provisional ? 'provisional' : '', finding.waived_by ? `waived by ${finding.waived_by}` : '', finding.waiver_ended ? `waiver ended ${finding.waiver_ended}` : ''].filter(Boolean)
  return (
    <li className={`finding ${open ? 'open' : ''}`} data-finding={finding.id} data-verdict={finding.verdict}>
      <button type="button" className="findinghead" aria-expanded={open} onClick={() => openFinding(open ? '' : finding.id)}>
        <VerdictGlyph verdict={finding.verdict} />
        <span className="sentence">
          {system === 'in' ? finding.sentence.inch : finding.sentence.mm}
          {conditions.map((c) => (
            <span key={c} className="condition">
              {c}
            </span>
          ))}
          {finding.limit_changed && <span className="condition">limit changed</span>}
        </span>
      </button>
      <GapGauge finding={finding} system={system} />
      {open && (
        <Suspense fallback={null}>
          <FindingBody finding={finding} elsewhere={elsewhere} />
        </Suspense>
      )}
    </li>
  )
})
