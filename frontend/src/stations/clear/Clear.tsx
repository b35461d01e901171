import { lazy, Suspense, useState } from 'react'
import { figure, unitOf } from '../../api/units'
import { Board } from '../../board/Board'
import { Tabs } from '../../board/Tabs'
import { VerdictGlyph } from '../../findings/VerdictGlyph'
import type { Verdict } from '../../api/types'
import { Ledger } from '../../ledger/Ledger'
import { RowsEditor } from '../../rows/RowsEditor'
import { useBuild } from '../../shell/buildContext'

const Space = lazy(() => import('./Space'))
const VIEWS = [
  ['side', 'Side'],
  ['plan', 'From above'],
  ['front', 'From behind'],
  ['space', 'In space'],
] as const

/** The tightest pairs, tightest first: gap, what the class asks, what the unit's movement takes, what is left. */
function Tightest() {
  const { boards, system, openFinding, setOpenFinding } = useBuild()
  const [whole, setWhole] = useState(false)
  const rows = whole ? boards.pairs : boards.pairs.slice(0, 8)
  const unit = unitOf('length', system)
  const shown = (v: number) => figure(v, 'length', system, 1)
  if (boards.pairs.length === 0) return null
  return (
    <section aria-label="Tightest pairs">
      <div className="panelhead">
        <h2>Tightest pairs</h2>
        <span className="soft">
          {boards.pairs_unmeasured === 0 ? `every pair is measured: ${boards.pair_count}` : `${boards.pair_count} pairs measured, ${boards.pairs_unmeasured} not`}
        </span>
        {boards.pairs.length > 8 && (
          <button type="button" className="quiet" onClick={() => setWhole(!whole)}>
            {whole ? 'the tightest only' : `${boards.pairs.length} pairs`}
          </button>
        )}
      </div>
      <div className="tablescroll" tabIndex={0}>
        <table className="pairs">
          <thead>
            <tr>
              <th>
                <span className="visually-hidden">verdict</span>
              </th>
              <th>unit</th>
              <th>chassis</th>
              <th>gap, {unit}</th>
              <th>class asks</th>
              <th>moves</th>
              <th>left</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((p) => (
              <tr key={p.engine + p.chassis} className={openFinding !== '' && openFinding === p.finding ? 'lit' : ''}>
                <td>
                  <VerdictGlyph verdict={p.verdict as Verdict} small />
                </td>
                <th scope="row">
                  {p.finding ? (
                    <button type="button" className="quiet" onClick={() => setOpenFinding(p.finding)}>
                      {p.engine}
                    </button>
                  ) : (
                    p.engine
                  )}
                </th>
                <td>{p.chassis}</td>
                <td className="mono">
                  {shown(p.gap)} ± {shown(p.pm)}
                  {p.read && <span className="soft"> read</span>}
                </td>
                <td className="mono">{shown(p.class_limit)}</td>
                <td className="mono">{shown(p.moves)}</td>
                <td className={`mono ${p.left < 0 ? 'fouls' : ''}`}>{shown(p.left)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

function Belt() {
  const { boards, system, assessment } = useBuild()
  if (!boards.belt) return null
  const asked = assessment.quantities['belt_length_mm']?.value
  return (
    <section aria-label="Belt run" className="beltrun">
      <Board drawing={boards.belt} label="Belt run" ruler={false} edge={30} />
      <div className="tablescroll" tabIndex={0}>
        <p>
          Length wanted <b className="mono">{boards.belt_length_mm == null ? '' : figure(boards.belt_length_mm, 'length', system, 1)}</b> {unitOf('length', system)}
          {asked != null && `, belt ${figure(asked, 'length', system, 1)}`}
        </p>
        <table>
          <thead>
            <tr>
              <th>pulley</th>
              <th>wrap</th>
              <th>span after it, {unitOf('length', system)}</th>
              <th>turns</th>
            </tr>
          </thead>
          <tbody>
            {boards.belt_rows.map((r) => (
              <tr key={r.name}>
                <th scope="row">{r.name}</th>
                <td className="mono">{r.wrap_deg.toFixed(0)}°</td>
                <td className="mono">{figure(r.span_mm, 'length', system, 1)}</td>
                <td>{r.turns}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

/** Clear: every solid of the engine against every one of the chassis, flat and in space; the belt run. */
export function Clear() {
  const { boards } = useBuild()
  const [view, setView] = useState<(typeof VIEWS)[number][0]>('side')
  const tools = (
    <div className="boardtools">
      <Tabs label="View" names={VIEWS} chosen={view} choose={setView} />
    </div>
  )
  const drawing = boards.clear[view]
  return (
    <>
      {view === 'space' ? (
        <Suspense fallback={<div className="board waiting">Loading the view in space</div>}>
          <Space>{tools}</Space>
        </Suspense>
      ) : (
        drawing && (
          <Board drawing={drawing} label={`Solids, ${view}`} ruler={false} edge={10}>
            {tools}
          </Board>
        )
      )}
      <Tightest />
      <Belt />
      <RowsEditor listKey="solids" fresh={{ shape: 'box' }} />
      <RowsEditor listKey="pulleys" />
      <Ledger station="clear" />
    </>
  )
}
