import { figure, unitOf, written } from '../../api/units'
import { Board } from '../../board/Board'
import { ChartView } from '../../board/ChartView'
import { Ledger } from '../../ledger/Ledger'
import { useBuild } from '../../shell/buildContext'

/** Line: the drive to scale, its true joint angles, the lengths to order, and what happens over the axle's travel. */
export function Line() {
  const { boards, state, system } = useBuild()
  const chain = state.document.options['drive'] === 'chain'
  return (
    <>
      <Board drawing={boards.line} label="The driveline" ruler={false} edge={34} flat />
      {boards.chart && <ChartView chart={boards.chart} />}
      {(boards.orders.length > 0 || boards.facts.length > 0) && (
        <section aria-label="Order sheet" className="orders">
          <div className="panelhead">
            <h2>Order sheet</h2>
            <span className="soft">{chain ? 'in pitches at the centre distance above; order the even number next to it' : 'joint centre to joint centre at ride height; name the joint series of both ends to the maker'}</span>
          </div>
          <ul className="plain">
            {boards.orders.map((o) => (
              <li key={o.name}>
                {o.name}{' '}
                <b className="mono">{chain ? figure(o.value, 'ratio', system) : `${figure(o.value, 'length', system, o.pm)} ± ${figure(o.pm, 'length', system, o.pm)} ${unitOf('length', system)}`}</b>
              </li>
            ))}
            {boards.facts.map(([name, value, kind]) => (
              <li key={name}>
                {name} <b className="mono">{written(value, kind, system)}</b>
              </li>
            ))}
          </ul>
        </section>
      )}
      <Ledger station="line" />
    </>
  )
}
