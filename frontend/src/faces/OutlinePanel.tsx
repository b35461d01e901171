import Dialog from '@mui/material/Dialog'
import { useState } from 'react'
import type { Act, PatternFound } from '../api/types'
import { once } from '../entry/hands'
import { usePatternFile, type Point } from './patternFile'
import { PatternSource } from './PatternSource'
import { PatternStage } from './PatternStage'
import { useBuild } from '../shell/buildContext'
import './faces.css'

const LIST = 'outlines'

/** What takes a closed line or a circle in as an outline, in the drawing's own axes. */
function taken(found: PatternFound, at: number, role: string, name: string, picture: boolean, next: number): Act[] {
  const evidence = (pm: number) => ({ source: picture ? 'measured' : 'drawing', tool: picture ? 'photo' : null, pm: `${pm.toFixed(2)} mm` })
  const line = found.lines[at]
  const circle = found.circles[at - found.lines.length]?.circle
  const points = line?.points.map((p): Point => [p[0] ?? 0, p[1] ?? 0]) ?? (circle === undefined ? [] : [[circle.x, circle.y] as Point])
  return [
    { do: 'add', list: LIST, row: { name, role, across: circle === undefined ? null : circle.d.toFixed(2), evidence: evidence(line?.pm ?? circle?.pm ?? 1) } },
    { do: 'rows', list: `${LIST}.points`, of: next, rows: points.map(([x, y]) => ({ x: x.toFixed(2), y: y.toFixed(2) })) },
  ] as unknown as Act[]
}

/** Outlines out of a drawing or picture: one closed line or circle after the other is said to be something. */
export default function OutlinePanel({ close }: { close: () => void }) {
  const { change, state, catalogue } = useBuild()
  const roles = catalogue.lists.find((l) => l.key === LIST)?.columns.find((c) => c.field === 'role')?.choices ?? []
  const [chosen, choose] = useState(0)
  const [role, setRole] = useState('')
  const [name, setName] = useState('')
  const source = usePatternFile((next) => {
    choose(0)
    return next
  })
  const { found, tell } = source
  const next = Math.max(0, ...state.document.outlines.map((o) => o.n)) + 1
  const count = (found?.lines.length ?? 0) + (found?.circles.length ?? 0)
  const ready = found !== null && found.unit === 'mm' && count > 0 && role !== ''
  const keep = () => {
    if (found === null) return
    void change(taken(found, chosen, role, name, source.picture, next), `an outline: ${name || role}`).then((wrong) => tell(wrong ?? `Taken in as outline ${next}, ${role}. Choose the next, or close.`))
  }
  const shape = (i: number) => (i === chosen ? 'patterncircle' : 'patterncircle out')
  return (
    <Dialog open onClose={close} maxWidth={false} aria-labelledby="outline-title">
      <div className="patternpanel">
        <div className="panelhead">
          <h2 id="outline-title">Outlines out of a drawing or picture</h2>
          <button type="button" className="plainbutton" onClick={close}>
            Close
          </button>
        </div>
        <PatternSource of={source} noScale="nothing yet: an outline wants a size" />
        <PatternStage of={source}>
          {({ inPicture, wide }) => (
            <>
              {found?.lines.map((l, i) => (
                <g key={`l${i}`} className={shape(i)} onPointerDown={(e) => e.stopPropagation()} onClick={() => choose(i)}>
                  <polygon points={(inPicture ? l.px : l.points.map((p) => [p[0] ?? 0, -(p[1] ?? 0)])).map((p) => p.join(',')).join(' ')} strokeWidth={wide / 300} />
                </g>
              ))}
              {found?.circles.map(({ circle, px }, i) => {
                const [x = 0, y = 0, d = 0] = inPicture ? px : [circle.x, -circle.y, circle.d]
                const at = found.lines.length + i
                return (
                  <g key={`c${i}`} className={shape(at)} onPointerDown={(e) => e.stopPropagation()} onClick={() => choose(at)}>
                    <circle cx={x} cy={y} r={d / 2} strokeWidth={wide / 300} />
                  </g>
                )
              })}
            </>
          )}
        </PatternStage>
        <div className="options">
          <label className="field">
            Outline
            <select value={chosen} onChange={(e) => choose(Number(e.target.value))}>
              {found?.lines.map((l, i) => (
                <option key={i} value={i}>
                  closed line {i + 1}, {l.points.length} corners {l.layer}
                </option>
              ))}
              {found?.circles.map((c, i) => (
                <option key={i} value={found.lines.length + i}>
                  circle of {c.circle.d.toFixed(1)} mm {c.layer}
                </option>
              ))}
            </select>
          </label>
          <label className="field">
            is
            <select value={role} onChange={(e) => setRole(e.target.value)}>
              <option value="">choose</option>
              {roles.map((r) => (
                <option key={r}>{r}</option>
              ))}
            </select>
          </label>
          <label className="field">
            called
            <input value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
          </label>
          <button type="button" className="plainbutton main" disabled={!ready} onClick={once(keep)}>
            Take it in
          </button>
        </div>
        <p className="soft">All outlines lie in the axes of one drawing or picture. Parts that were drawn apart are laid on each other by their points: type those of one anew, or trace both in one picture.</p>
      </div>
    </Dialog>
  )
}
