import { useState } from 'react'
import type { Station } from '../api/types'
import { useBuild } from '../shell/buildContext'
import { stationName } from '../shell/StationRail'
import { FindingRow } from './FindingRow'
import { worstFirst } from './order'
import { WaysDrawer } from './WaysDrawer'

/** Findings, worst first, of this station or of the whole build. */
export function FindingsPanel({ station, go }: { station: Station; go: (to: Station, question?: string) => void }) {
  const { assessment, system, openFinding, setOpenFinding } = useBuild()
  const [chosen, setWhole] = useState(false)
  const [ways, setWays] = useState(false)
  const whole = chosen || station === 'survey'
  const shown = worstFirst(assessment.findings.filter((f) => whole || f.station === station))
  return (
    <aside className="findings" aria-label="Findings">
      <div className="panelhead">
        <h2>{whole ? 'Findings of the whole build' : 'Findings at this station'}</h2>
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
      {shown.length === 0 && <p className="empty soft">No check speaks here yet.</p>}
      <ul className="plain">
        {shown.map((f) => (
          <FindingRow key={f.id} finding={f} system={system} open={openFinding === f.id} setOpen={setOpenFinding} elsewhere={f.station === station ? null : f.station} go={go} />
        ))}
      </ul>
    </aside>
  )
}
