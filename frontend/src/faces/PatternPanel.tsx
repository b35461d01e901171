import Dialog from '@mui/material/Dialog'
import { useEffect, useState, type ChangeEvent, type PointerEvent } from 'react'
import { api } from '../api/client'
import type { Face, PatternFound } from '../api/types'
import { once } from '../entry/hands'
import { useBuild } from '../shell/buildContext'
import { letterOf, type FaceOf } from './holes'
import { clockwise, takeIn, type Meant } from './pattern'
import './faces.css'

type Point = readonly [number, number]
type Way = 'none' | 'length' | 'rectangle'
const CORNERS: Readonly<Record<Way, number>> = { none: 0, length: 2, rectangle: 4 }
const MOST_SIDE = 4000
const EDGE = 0.06

const sizeIn = (text: string): number => {
  const value = Number(text.trim().replace(',', '.'))
  return Number.isFinite(value) && value > 0 ? value : 0
}
const isPicture = (file: File) => /^image\/(png|jpeg|webp)$/.test(file.type)

/** The circles as they were found: on the picture, or drawn to scale. One is clicked to leave it out or take it again. */
function Circles({ found, meant, url, picked, pick, flip, labels }: { found: PatternFound | null; meant: readonly Meant[]; url: string; picked: readonly Point[]; pick: (at: Point) => void; flip: (i: number) => void; labels: readonly string[] }) {
  const [size, setSize] = useState<{ wide: number; tall: number } | null>(null)
  // A picture is read with its longer side at most 4000.
  const scale = size === null ? 1 : Math.min(1, MOST_SIDE / Math.max(size.wide, size.tall))
  const xs = (found?.circles ?? []).flatMap((c) => [c.circle.x - c.circle.d / 2, c.circle.x + c.circle.d / 2])
  const ys = (found?.circles ?? []).flatMap((c) => [-c.circle.y - c.circle.d / 2, -c.circle.y + c.circle.d / 2])
  const edge = EDGE * Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys))
  const box = url ? `0 0 ${(size?.wide ?? 1) * scale} ${(size?.tall ?? 1) * scale}` : `${Math.min(...xs) - edge} ${Math.min(...ys) - edge} ${Math.max(...xs) - Math.min(...xs) + 2 * edge} ${Math.max(...ys) - Math.min(...ys) + 2 * edge}`
  const wide = Number(box.split(' ')[2])
  const onDown = (event: PointerEvent<SVGSVGElement>) => {
    const at = event.currentTarget.getBoundingClientRect()
    if (url && size !== null) pick([((event.clientX - at.left) / at.width) * size.wide * scale, ((event.clientY - at.top) / at.height) * size.tall * scale])
  }
  return (
    <div className="patternstage">
      {url && <img src={url} alt="" onLoad={(e) => setSize({ wide: e.currentTarget.naturalWidth, tall: e.currentTarget.naturalHeight })} />}
      {(size !== null || (!url && found !== null)) && (
        <svg viewBox={box} role="img" aria-label={`${found?.circles.length ?? 0} circles found`} onPointerDown={onDown}>
          {picked.length > 1 && <polygon className="patternknown" points={picked.map((p) => p.join(',')).join(' ')} strokeWidth={wide / 400} />}
          {picked.map(([x, y], i) => (
            <circle key={`k${i}`} className="patternknown" cx={x} cy={y} r={wide / 120} strokeWidth={wide / 400} />
          ))}
          {(found?.circles ?? []).map((c, i) => {
            const [x, y, d] = url ? (c.px as [number, number, number]) : [c.circle.x, -c.circle.y, c.circle.d]
            return (
              <g key={i} className={meant[i] === '' ? 'patterncircle out' : 'patterncircle'} onPointerDown={(e) => e.stopPropagation()} onClick={() => flip(i)}>
                <circle cx={x} cy={y} r={d / 2} strokeWidth={wide / 300} />
                <text x={x + d / 2 + wide / 200} y={y} fontSize={wide / 45}>
                  {labels[i]}
                </text>
              </g>
            )
          })}
        </svg>
      )}
    </div>
  )
}

/** A pattern out of a drawing or a picture: its circles are looked at, said to be holes, and join the distances as a set of points. */
export default function PatternPanel({ of, close }: { of: FaceOf; close: () => void }) {
  const { change } = useBuild()
  const { side, face, called } = of
  const letter = letterOf(side)
  const [file, setFile] = useState<File | null>(null)
  const [url, setUrl] = useState('')
  const [found, setFound] = useState<PatternFound | null>(null)
  const [meant, setMeant] = useState<readonly Meant[]>([])
  const [told, tell] = useState('')
  const [unit, setUnit] = useState<'' | 'mm' | 'cm' | 'in'>('')
  const [layer, setLayer] = useState('')
  const [seen, setSeen] = useState<Face['taken_from']>(face.taken_from)
  const [way, setWay] = useState<Way>('none')
  const [picked, setPicked] = useState<readonly Point[]>([])
  const [said, say] = useState({ width: '', width_pm: '', height: '', height_pm: '' })
  const picture = file !== null && isPicture(file)
  useEffect(() => (url ? () => URL.revokeObjectURL(url) : undefined), [url])
  const choose = (event: ChangeEvent<HTMLInputElement>) => {
    const chosen = event.target.files?.[0] ?? null
    setFile(chosen)
    setFound(null)
    setPicked([])
    setLayer('')
    tell('')
    setUrl(chosen !== null && isPicture(chosen) ? URL.createObjectURL(chosen) : '')
    if (chosen !== null && !isPicture(chosen)) void read(chosen, unit)
  }
  const read = async (from: File, as: typeof unit) => {
    tell('Looking for circles')
    try {
      const known = { width: sizeIn(said.width), width_pm: sizeIn(said.width_pm), height: sizeIn(said.height), height_pm: sizeIn(said.height_pm) }
      const next = await api.pattern(from, { unit: as, corners: way === 'none' ? [] : picked.flat(), ...known })
      setFound(next)
      const order = clockwise(next)
      const blank: Meant[] = next.circles.map(() => 'new')
      // What is there already is said by hand; an empty pattern is numbered clockwise from the top.
      setMeant(face.holes.length === 0 ? blank : next.circles.map(() => ''))
      setFound({ ...next, circles: order.flatMap((i) => next.circles[i] ?? []) })
      tell([`${next.circles.length} circles found`, ...next.notes, ...(next.unit === '' ? ['the drawing does not say its unit: choose it'] : [])].join('; '))
    } catch (error) {
      setFound(null)
      tell(error instanceof Error ? error.message : 'The file could not be read.')
    }
  }
  const next = Math.max(0, ...face.holes.map((h) => h.n)) + 1
  const inLayer = (i: number) => layer === '' || found?.circles[i]?.layer === layer
  const acts = meant.map((m, i) => (inLayer(i) ? m : ''))
  const fresh = acts.reduce<number[]>((list, m, i) => (m === 'new' ? [...list, i] : list), [])
  const labelOf = (i: number) => (acts[i] === '' ? '' : acts[i] === 'axis' ? 'axis' : acts[i] === 'new' ? `${letter}${next + fresh.indexOf(i)}` : `${letter}${acts[i]}`)
  const set = (i: number, m: Meant) => setMeant(meant.map((old, k) => (k === i ? m : old)))
  const used = acts.filter((m) => m !== '')
  const twice = used.filter((m) => m !== 'new').some((m, i, all) => all.indexOf(m) !== i)
  const ready = found !== null && found.unit !== '' && used.length >= 2 && !twice
  const known = way === 'none' || (picked.length === CORNERS[way] && sizeIn(said.width) > 0 && (way === 'length' || sizeIn(said.height) > 0))
  const keep = () => {
    if (found === null || file === null) return
    void change(takeIn(of, found, acts, { name: file.name, seen, picture }), `${used.length} holes of the ${called} out of ${file.name.slice(0, 60)}`).then((wrong) => (wrong === null ? close() : tell(wrong)))
  }
  const field = (key: keyof typeof said, words: string) => (
    <label className="field">
      {words}
      <input className="mono" value={said[key]} maxLength={12} onChange={(e) => say({ ...said, [key]: e.target.value })} />
    </label>
  )
  return (
    <Dialog open onClose={close} maxWidth={false} aria-labelledby="pattern-title">
      <div className="patternpanel">
        <div className="panelhead">
          <h2 id="pattern-title">Holes of the {called} out of a drawing or picture</h2>
          <button type="button" className="plainbutton" onClick={close}>
            Close
          </button>
        </div>
        <div className="options">
          <label className="field">
            DXF, SVG, scan or photo
            <input type="file" accept=".dxf,.svg,image/png,image/jpeg,image/webp" onChange={choose} />
          </label>
          <label className="field">
            Seen
            <select value={seen} onChange={(e) => setSeen(e.target.value as Face['taken_from'])}>
              <option value="behind">from behind, looking forwards</option>
              <option value="front">from the front (into a mouth)</option>
            </select>
          </label>
          {file !== null && !picture && (
            <label className="field">
              One unit of the drawing is
              <select
                value={unit}
                onChange={(e) => {
                  const as = e.target.value as typeof unit
                  setUnit(as)
                  void read(file, as)
                }}
              >
                <option value="">as the file says</option>
                {(['mm', 'cm', 'in'] as const).map((u) => (
                  <option key={u}>{u}</option>
                ))}
              </select>
            </label>
          )}
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
          {picture && (
            <>
              <label className="field">
                Known in it
                <select
                  value={way}
                  onChange={(e) => {
                    setWay(e.target.value as Way)
                    setPicked([])
                  }}
                >
                  <option value="none">nothing: a distance between two holes gives its scale</option>
                  <option value="rectangle">a rectangle in the plane of the holes, four corners</option>
                  <option value="length">a length in that plane</option>
                </select>
              </label>
              {way !== 'none' && field('width', way === 'length' ? 'its length, mm' : 'first to second corner, mm')}
              {way !== 'none' && field('width_pm', '±, mm')}
              {way === 'rectangle' && field('height', 'second to third corner, mm')}
              {way === 'rectangle' && field('height_pm', '±, mm')}
              {picked.length > 0 && (
                <button type="button" className="quiet" onClick={() => setPicked(picked.slice(0, -1))}>
                  take the last point back
                </button>
              )}
              <button type="button" className="plainbutton" disabled={!known} onClick={() => void read(file, unit)}>
                Find the holes
              </button>
            </>
          )}
        </div>
        <p role="status" aria-label="What was found">
          {picture && way !== 'none' && picked.length < CORNERS[way] ? `Pick ${way === 'length' ? 'the ends of the known length' : 'the corners of the known rectangle in turn'}: ${CORNERS[way] - picked.length} to go.` : told}
        </p>
        <div className="patternbody">
          <Circles found={found} meant={acts} url={url} picked={picked} pick={(at) => picked.length < CORNERS[way] && setPicked([...picked, at])} flip={(i) => set(i, meant[i] === '' ? 'new' : '')} labels={acts.map((_, i) => labelOf(i))} />
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
                          <td className="mono">{circle.x.toFixed(2)}</td>
                          <td className="mono">{circle.y.toFixed(2)}</td>
                          <td className="mono">{circle.d.toFixed(2)}</td>
                          <td className="mono">{circle.pm.toFixed(2)}</td>
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
