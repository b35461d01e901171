import { written } from '../../api/units'
import { useBuild } from '../../shell/buildContext'
import { stationName } from '../../shell/StationRail'
import { useVisit } from '../../shell/visit'
import './survey.css'

/** Everything that is worth measuring, most settling first. */
export function NextTable() {
  const { assessment, system, state } = useBuild()
  const visit = useVisit()
  const doc = state.document
  return (
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
                  <button type="button" className="quiet" onClick={() => visit(n.address, n.station)}>
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
  )
}
