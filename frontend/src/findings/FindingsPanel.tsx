import { useMemo, useState, type ReactNode } from 'react'
import type { Finding, Station } from '../api/types'
import { useBuild, useTrial } from '../shell/buildContext'
import { stationName } from '../shell/StationRail'
import { FindingRow } from './FindingRow'
import { useStill } from './order'
import { WaysDrawer } from './WaysDrawer'

interface Props {
  station: Station
  question: string
  go: (to: Station, question?: string) => void
}

/** Findings, worst first: of the question that is looked at, then of its station; or of the whole build. */
export function FindingsPanel({ station, question, go }: Props) {
  const { assessment, catalogue } = useBuild()
  const [chosen, setWhole] = useState(false)
  const [ways, setWays] = useState(false)
  const whole = chosen || station === 'survey'
  const [own, others] = useMemo(() => {
    const shown = assessment.findings.filter((f) => whole || f.station === station)
    return [whole ? shown : shown.filter((f) => f.question === question), whole ? [] : shown.filter((f) => f.question !== question)]
  }, [assessment.findings, question, station, whole])
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
        <button type="button" className="quiet" onClick={() => setWays(true)}>
          ways out
        </button>
      </div>
      {ways && <WaysDrawer close={() => setWays(false)} />}
      <div className="findinglist" tabIndex={-1}>
        {own.length === 0 && <p className="empty soft">{whole ? 'No check speaks here yet.' : `${name}: no check speaks here yet.`}</p>}
        <Rows findings={own} of={whole ? 'whole' : question} station={station} go={go} />
        {others.length > 0 && <h3 className="findingsof">Elsewhere in {stationName(station)}</h3>}
        <Following>
        <Rows findings={others} of={`${station} ${question}`} station={station} go={go} />
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

function Rows({ findings, of, station, go }: { findings: readonly Finding[]; of: string; station: Station; go: Props['go'] }) {
  const { system, openFinding, setOpenFinding } = useBuild()
  const shown = useStill(findings, of)
  return (
    <ul className="plain">
      {shown.map((f) => (
        <FindingRow key={f.id} finding={f} system={system} open={openFinding === f.id} setOpen={setOpenFinding} elsewhere={f.station === station ? null : f.station} go={go} />
      ))}
    </ul>
  )
}
