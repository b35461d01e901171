import type { Drawing, Finding } from '../api/types'
import { figure } from '../api/units'
import { useBuild } from '../shell/buildContext'
import { openFinding, useLooked } from '../shell/looked'
import type { Place } from './place'
import './board.css'

/** Whether a gap is drawn: what fouls or is tight always is, the rest while its finding is opened. */
export const gapShown = (finding: Finding | undefined, open: string): finding is Finding => finding !== undefined && (finding.verdict === 'fouls' || finding.verdict === 'tight' || open === finding.id)

/** A finding drawn where it is, as a dimensioned gap in its verdict's hue. */
export function GapMark({ gap, finding, place }: { gap: Drawing['gaps'][number]; finding: Finding; place: Place }) {
  const { system } = useBuild()
  const chosen = useLooked((l) => l.finding === finding.id)
  const [x1, x2, y1, y2] = [place.x(gap.x1), place.x(gap.x2), place.y(gap.y1), place.y(gap.y2)]
  const spot = Math.hypot(x2 - x1, y2 - y1) < 1
  const text = finding.value == null ? '' : figure(finding.value, finding.kind, system, finding.u ?? 0)
  return (
    <g className={`gap ${finding.verdict} ${chosen ? 'chosen' : ''}`} onClick={() => openFinding(finding.id)}>
      <title>{system === 'in' ? finding.sentence.inch : finding.sentence.mm}</title>
      {spot ? <circle cx={x1} cy={y1} r="13" /> : <line x1={x1} y1={y1} x2={x2} y2={y2} />}
      {finding.kind === 'length' && (
        <text x={(x1 + x2) / 2} y={Math.min(y1, y2) - (spot ? 16 : 5)} textAnchor="middle" className="mono">
          {text}
        </text>
      )}
    </g>
  )
}
