import { useNavigate } from 'react-router'
import type { Assessment } from '../../api/types'
import { written } from '../../api/units'
import { useBuild } from '../../shell/buildContext'
import { focusLine } from '../../shell/Finder'
import { AboutBuild } from './AboutBuild'
import { stationName } from '../../shell/StationRail'

/** The build in words, and what to measure next. */
export function About() {
  const { assessment, system, state, catalogue, light } = useBuild()
  const navigate = useNavigate()
  const doc = state.document
  /** Goes to the line of a size, lit and ready to be typed in. */
  const take = (next: Assessment['next'][number]) => {
    const path = catalogue.questions.find((q) => q.key === next.question)?.path
    void navigate(`/build/${state.id}/${next.station}${path ? `/${path}` : ''}`)
    light(next.address)
    focusLine(next.station, next.address)
  }
  return (
    <>
      <AboutBuild />
      <section className="survey" aria-label="Measure next">
        <div className="panelhead">
          <h2>Measure next</h2>
          <span className="soft">most settling first</span>
        </div>
        {Object.keys(doc.dims).length === 0 && <p className="buildwords soft">Bring to the bench first: depth gauge, calliper, steel rule, straight edge, and the gearbox with its bell off the engine.</p>}
        {assessment.next.length === 0 && <p className="empty">Nothing that is measured now would turn a finding.</p>}
        <table className="next">
          <thead>
            <tr>
              <th>Dimension</th>
              <th>Tool</th>
              <th>To ±</th>
              <th>Why</th>
              <th>How</th>
            </tr>
          </thead>
          <tbody>
            {assessment.next.map((n) => (
              <tr key={n.address}>
                <th scope="row">
                  <button type="button" className="quiet" onClick={() => take(n)}>
                    {n.name}
                  </button>
                  <span className="soft">
                    {' '}
                    {stationName(n.station)} {n.letter}
                  </span>
                </th>
                <td>{n.tool || (n.kind === 'count' ? 'look' : 'paper of the maker')}</td>
                <td className="mono">{n.pm_wanted == null ? '' : written(n.pm_wanted, n.kind, system, n.pm_wanted)}</td>
                <td>{n.reason}</td>
                <td className="soft">{n.how}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </>
  )
}
