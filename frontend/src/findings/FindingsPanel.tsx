import { memo, useMemo, useState, type ReactNode } from 'react'
import type { Finding, Station } from '../api/types'
import { useBuild, useTrial } from '../shell/buildContext'
import { openPanel } from '../shell/looked'
import { stationName } from '../shell/StationRail'
import { FindingRow } from './FindingRow'
import { useStill } from './order'
import './findings.css'

interface Props {
  station: Station
  question: string
}

/** Findings, worst first: of the question that is looked at, then of its station; or of the whole build. */
export function FindingsPanel({ station, question }: Props) {
  const { assessment, catalogue } = useBuild()
  const [chosen, setWhole] = useState(false)
  const whole = chosen || station === 'survey'
  const [own, others] = useMemo(() => {
    const shown = assessment.findings.filter((f) => whole || f.station === station)
    const first = shown.filter((f) => f.question === question)
    // Survey looks at the whole build, after what its own question says.
    if (chosen || (whole && first.length === 0)) return [shown, []]
    return [first, shown.filter((f) => f.question !== question)]
  }, [assessment.findings, chosen, question, station, whole])
  const name = catalogue.questions.find((q) => q.key === question)?.name ?? ''
  return (
    <aside className="findings" aria-label="Findings">
      <div className="panelhead">
        <h2>{whole ? 'Findings of the whole build' : 'Findings'}</h2>
        {station !== 'survey' && (
          <button type="button" className="quiet" onClick={() => setWhole(!whole)}>
            {whole ? stationName(station) : 'whole build'}
          </button>
        )}
        <button type="button" className="quiet" onClick={() => openPanel('ways')}>
          ways out
        </button>
      </div>
      <div className="findinglist" tabIndex={-1}>
        {own.length === 0 && <p className="empty soft">{whole ? 'No check speaks here yet.' : `${name}: no check speaks here yet.`}</p>}
        <Rows findings={own} of={others.length === 0 && whole ? 'whole' : question} station={station} />
        {others.length > 0 && <h3 className="findingsof">Elsewhere in {whole ? 'the build' : stationName(station)}</h3>}
        <Following>
          <Rows findings={others} of={`${station} ${question}`} station={station} />
        </Following>
      </div>
    </aside>
  )
}

/** What follows only when the hand rests. */
function Following({ children }: { children: ReactNode }) {
  const moving = useTrial()?.moving ?? false
  return (
    <div className={moving ? 'behind' : ''} aria-busy={moving}>
      {children}
    </div>
  )
}

interface RowsProps {
  findings: readonly Finding[]
  of: string
  station: Station
}

/** Drawn again only when one of its findings is another. */
const Rows = memo(function Rows({ findings, of, station }: RowsProps) {
  const { system } = useBuild()
  const shown = useStill(findings, of)
  return (
    <ul className="plain">
      {shown.map((f) => (
        <FindingRow key={f.id} finding={f} system={system} elsewhere={f.station === station ? null : f.station} />
      ))}
    </ul>
  )
}, (a, b) => a.of === b.of && a.station === b.station && a.findings.length === b.findings.length && a.findings.every((f, i) => f === b.findings[i]))
