import { useState } from 'react'
import { figure, unitOf } from '../../api/units'
import { Board } from '../../board/Board'
import { Tabs } from '../../board/Tabs'
import { Ledger } from '../../ledger/Ledger'
import { RowsEditor } from '../../rows/RowsEditor'
import { useBuild } from '../../shell/buildContext'

const VIEWS = [
  ['side', 'Side'],
  ['plan', 'From above'],
  ['front', 'From behind'],
] as const

/** Seat: where the unit sits; drag it in any view, or nudge it with the arrow keys, and every finding follows. */
export function Seat() {
  const { boards, system } = useBuild()
  const [view, setView] = useState<(typeof VIEWS)[number][0]>('side')
  const drawing = boards.seat[view]
  const unit = unitOf('length', system)
  return (
    <>
      {drawing && (
        <Board drawing={drawing} label={`The unit in the chassis, ${view}`} ruler={false} edge={34}>
          <div className="boardtools">
            <Tabs label="View" names={VIEWS} chosen={view} choose={setView} />
          </div>
        </Board>
      )}
      {boards.readouts.length > 0 && (
        <section aria-label="Where it sits" className="tablescroll readouts" tabIndex={0}>
          <table>
            <thead>
              <tr>
                <th>point of the unit</th>
                <th>behind front axle, {unit}</th>
                <th>left of centre, {unit}</th>
                <th>above rail, {unit}</th>
                <th>above ground, {unit}</th>
              </tr>
            </thead>
            <tbody>
              {boards.readouts.map((r) => (
                <tr key={r.name}>
                  <th scope="row">{r.name}</th>
                  {[r.back, r.left, r.above_rail, r.above_ground].map((v, i) => (
                    <td key={i} className="mono">
                      {v == null ? '' : figure(v, 'length', system, 1)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      {boards.mount_rows.length > 0 && (
        <section aria-label="On its mounts" className="tablescroll readouts" tabIndex={0}>
          <table>
            <thead>
              <tr>
                <th>mount</th>
                <th>carries</th>
                <th>squash, {unit}</th>
                {boards.cases.map((c) => (
                  <th key={c}>
                    {c}, {unit}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {boards.mount_rows.map((m) => (
                <tr key={m.n}>
                  <th scope="row">
                    {m.n} {m.name}
                  </th>
                  <td className="mono">{m.share.toFixed(0)} %</td>
                  <td className="mono">{figure(m.squash, 'length', system, 1)}</td>
                  {m.moves.map((v, i) => (
                    <td key={i} className="mono">
                      {figure(v, 'length', system, 1)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      <RowsEditor listKey="mounts" />
      <RowsEditor listKey="pose_points" />
      <Ledger station="seat" />
    </>
  )
}
