import Dialog from '@mui/material/Dialog'
import { useState } from 'react'
import type { Face, PatternFound } from '../api/types'
import { once } from '../entry/hands'
import { useBuild } from '../shell/buildContext'
import { letterOf, type FaceOf } from './holes'
import { clockwise, takeIn, type Meant } from './pattern'
import { usePatternFile } from './patternFile'
import { PatternSource } from './PatternSource'
import { PatternStage } from './PatternStage'
import './faces.css'

/** A pattern out of a drawing or a picture: its circles are looked at, said to be holes, and join the distances as a set of points. */
export default function PatternPanel({ of, close }: { of: FaceOf; close: () => void }) {
  const { change } = useBuild()
  const { side, face, called } = of
  const letter = letterOf(side)
  const [meant, setMeant] = useState<readonly Meant[]>([])
  const [layer, setLayer] = useState('')
  const [seen, setSeen] = useState<Face['taken_from']>(face.taken_from)
  const arrange = (next: PatternFound): PatternFound => {
    // What is there already is said by hand; an empty pattern is numbered clockwise from the top.
    setMeant(next.circles.map(() => (face.holes.length === 0 ? 'new' : '')))
    setLayer('')
    return { ...next, circles: clockwise(next).flatMap((i) => next.circles[i] ?? []) }
  }
  const source = usePatternFile(arrange)
  const { found, file, tell } = source
  const next = Math.max(0, ...face.holes.map((h) => h.n)) + 1
  const inLayer = (i: number) => layer === '' || found?.circles[i]?.layer === layer
  const acts = meant.map((m, i) => (inLayer(i) ? m : ''))
  const fresh = acts.reduce<number[]>((list, m, i) => (m === 'new' ? [...list, i] : list), [])
  const labelOf = (i: number) => (acts[i] === '' ? String(i + 1) : acts[i] === 'axis' ? 'axis' : acts[i] === 'new' ? `${letter}${next + fresh.indexOf(i)}` : `${letter}${acts[i]}`)
  const set = (i: number, m: Meant) => setMeant(meant.map((old, k) => (k === i ? m : old)))
  const used = acts.filter((m) => m !== '')
  const twice = used.filter((m) => m !== 'new').some((m, i, all) => all.indexOf(m) !== i)
  const ready = found !== null && found.unit !== '' && used.length >= 2 && !twice
  const keep = () => {
    if (found === null || file === null) return
    void change(takeIn(of, found, acts, { name: file.name, seen, picture: source.picture }), `${used.length} holes of the ${called} out of ${file.name.slice(0, 60)}`).then((wrong) => (wrong === null ? close() : tell(wrong)))
  }
  return (
    <Dialog open onClose={close} maxWidth={false} aria-labelledby="pattern-title">
      <div className="patternpanel">
        <div className="panelhead">
          <h2 id="pattern-title">Holes of the {called} out of a drawing or picture</h2>
          <button type="button" className="plainbutton" onClick={close}>
            Close
          </button>
        </div>
        <PatternSource of={source} noScale="nothing: a distance between two holes gives its scale">
          <label className="field">
            Seen
            <select value={seen} onChange={(e) => setSeen(e.target.value as Face['taken_from'])}>
              <option value="behind">from behind, looking forwards</option>
              <option value="front">from the front (into a mouth)</option>
            </select>
          </label>
          {found !== null && found.layers.length > 1 && (
            <label className="field">
              Layer
              <select value={layer} onChange={(e) => setLayer(e.target.value)}>
                <option value="">all</option>
                {found.layers.map((l) => (
                  <option key={l}>{l}</option>
                ))}
              </select>
            </label>
          )}
        </PatternSource>
        <div className="patternbody">
          <PatternStage of={source}>
            {({ inPicture, wide }) =>
              found?.circles.map(({ circle, px }, i) => {
                const [x = 0, y = 0, d = 0] = inPicture ? px : [circle.x, -circle.y, circle.d]
                return (
                  <g key={i} className={acts[i] === '' ? 'patterncircle out' : 'patterncircle'} onPointerDown={(e) => e.stopPropagation()} onClick={() => set(i, meant[i] === '' ? 'new' : '')}>
                    <circle cx={x} cy={y} r={d / 2} strokeWidth={wide / 300} />
                    <text x={x + d / 2 + wide / 200} y={y} fontSize={wide / 45}>
                      {labelOf(i)}
                    </text>
                  </g>
                )
              })
            }
          </PatternStage>
          {found !== null && (
            <div className="patternlist">
              <table className="plaintable">
                <thead>
                  <tr>
                    <th>circle is</th>
                    <th>right, {found.unit || 'units'}</th>
                    <th>up</th>
                    <th>across</th>
                    <th>±</th>
                  </tr>
                </thead>
                <tbody>
                  {found.circles.map(
                    ({ circle }, i) =>
                      inLayer(i) && (
                        <tr key={i}>
                          <td>
                            <select aria-label={`Circle ${i + 1} is`} value={meant[i] ?? ''} onChange={(e) => set(i, e.target.value as Meant)}>
                              <option value="">left out</option>
                              <option value="new">a new hole{acts[i] === 'new' ? `, ${labelOf(i)}` : ''}</option>
                              <option value="axis">the crank axis</option>
                              {face.holes.map((h) => (
                                <option key={h.n} value={h.n}>
                                  {letter}
                                  {h.n} {h.name}
                                </option>
                              ))}
                            </select>
                          </td>
                          {[circle.x, circle.y, circle.d, circle.pm].map((v, k) => (
                            <td key={k} className="mono">
                              {v.toFixed(2)}
                            </td>
                          ))}
                        </tr>
                      ),
                  )}
                </tbody>
              </table>
            </div>
          )}
        </div>
        <div className="actions">
          {twice && <span className="fouls">One hole stands for two circles. </span>}
          <button type="button" className="plainbutton main" disabled={!ready} onClick={once(keep)}>
            Take {used.length} into the pattern
          </button>
          <span className="soft">They come as a set of points with a shift and a turn of its own: say of the axis and of one direction where they lie.</span>
        </div>
      </div>
    </Dialog>
  )
}
