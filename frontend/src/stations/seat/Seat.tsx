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

interface FiguresProps {
  label: string
  heads: readonly string[]
  rows: readonly { readonly name: string; readonly cells: readonly string[] }[]
}

/** A table of figures that follow from the numbers; nothing until there is one. */
function FiguresTable({ label, heads, rows }: FiguresProps) {
  if (rows.length === 0) return null
  return (
    <section aria-label={label} className="tablescroll readouts" tabIndex={0}>
      <table>
        <thead>
          <tr>
            {heads.map((h) => (
              <th key={h}>{h}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.name}>
              <th scope="row">{r.name}</th>
              {r.cells.map((cell, i) => (
                <td key={heads[i + 1]} className="mono">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** Seat: where the unit sits; drag it in any view, or nudge it with the arrow keys, and every finding follows. */
export function Seat() {
  const { boards, system } = useBuild()
  const [view, setView] = useState<(typeof VIEWS)[number][0]>('side')
  const drawing = boards.seat[view]
  const unit = unitOf('length', system)
  const mm = (v: number | null) => (v == null ? '' : figure(v, 'length', system, 1))
  return (
    <>
      {drawing && (
        <Board drawing={drawing} label={`The unit in the chassis, ${view}`} ruler={false} edge={34}>
          <div className="boardtools">
            <Tabs label="View" names={VIEWS} chosen={view} choose={setView} />
          </div>
        </Board>
      )}
      <FiguresTable
        label="Where it sits"
        heads={['point of the unit', `behind front axle, ${unit}`, `left of centre, ${unit}`, `above rail, ${unit}`, `above ground, ${unit}`]}
        rows={boards.readouts.map((r) => ({ name: r.name, cells: [r.back, r.left, r.above_rail, r.above_ground].map(mm) }))}
      />
      <FiguresTable
        label="On its mounts"
        heads={['mount', 'carries', `squash, ${unit}`, ...boards.cases.map((c) => `${c}, ${unit}`)]}
        rows={boards.mount_rows.map((m) => ({ name: `${m.n} ${m.name}`, cells: [`${m.share.toFixed(0)} %`, mm(m.squash), ...m.moves.map(mm)] }))}
      />
      <FiguresTable
        label="How it moves on its mounts"
        heads={['mode', 'natural frequency, Hz', 'of it about the crank']}
        rows={boards.modes.map((m, i) => ({ name: String(i + 1), cells: [m.hertz.toFixed(1), `${(100 * m.about_crank).toFixed(0)} %`] }))}
      />
      <RowsEditor listKey="mounts" />
      <RowsEditor listKey="pose_points" />
      <Ledger station="seat" />
    </>
  )
}
