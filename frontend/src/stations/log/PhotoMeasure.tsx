import Dialog from '@mui/material/Dialog'
import { useQuery } from '@tanstack/react-query'
import { useRef, useState, type PointerEvent } from 'react'
import { queries } from '../../api/client'
import type { OffAPhoto } from '../../api/types'
import { figure } from '../../api/units'
import { once } from '../../entry/hands'
import { isSaid, NOTHING_KNOWN, sizesIn } from '../../photos/known'
import { useBuild } from '../../shell/buildContext'
import { stationName } from '../../shell/StationRail'
import './log.css'

type Point = readonly [number, number]
type Way = 'length' | 'rectangle'
type What = OffAPhoto['what']
const WANTED: Readonly<Record<What, number>> = { length: 2, angle: 3, circle: 12 }
const KNOWN: Readonly<Record<Way, number>> = { length: 2, rectangle: 4 }
const ZOOMS = [1, 2, 4] as const
/** What a hand hits on the screen, in its points. */
const HAND_PX = 1
const NEAR_PX = 12

interface Props {
  address: string
  /** Number of the log's entry that holds it. */
  entry: number
  close: () => void
}

/** What was read off goes into the ledger as a reading with a photo, and the photo is pinned to it. */
function KeepIt({ value, pm, kind, entry, tell }: { value: number; pm: number; kind: string; entry: number; tell: (words: string) => void }) {
  const { assessment, catalogue, change } = useBuild()
  const asked = new Set(assessment.asked)
  const sizes = catalogue.dimensions.filter((d) => asked.has(d.key) && d.kind === kind && !d.sourced)
  const [to, choose] = useState('')
  const [flat, setFlat] = useState(false)
  const row = sizes.find((d) => d.key === to)
  const typed = `${value.toFixed(kind === 'angle' ? 2 : 1)} ± ${Math.max(0.1, pm).toFixed(1)}`
  const keep = () => {
    if (row === undefined) return
    void change(
      [
        { do: 'read', key: row.key, typed, unit: row.unit || null, source: 'measured', tool: 'photo' },
        { do: 'put', list: 'log', row: entry, field: 'pin', value: row.key as never },
      ],
      `${row.name} read off a photo`,
    ).then((wrong) => tell(wrong ?? `${row.name} is kept as ${typed} ${row.unit}, off a photo.`))
  }
  return (
    <span className="keepit">
      <label className="field">
        is
        <select value={to} onChange={(e) => choose(e.target.value)}>
          <option value="">choose a size</option>
          {sizes.map((d) => (
            <option key={d.key} value={d.key}>
              {d.name}, {stationName(d.station)}
            </option>
          ))}
        </select>
      </label>
      <label>
        <input type="checkbox" checked={flat} onChange={(e) => setFlat(e.target.checked)} /> it lies in the plane of what is known
      </label>
      <button type="button" className="plainbutton main" disabled={row === undefined || !flat} onClick={once(keep)}>
        Keep as a reading
      </button>
    </span>
  )
}

/** Lengths, angles and circles off a photo: what is known gives the scale, what is picked is read, with its ±. */
export function PhotoMeasure({ address, entry, close }: Props) {
  const { system } = useBuild()
  const [way, setWay] = useState<Way>('length')
  const [what, setWhat] = useState<What>('length')
  const [known, setKnown] = useState<readonly Point[]>([])
  const [points, setPoints] = useState<readonly Point[]>([])
  const [said, say] = useState(NOTHING_KNOWN)
  const [zoom, setZoom] = useState<number>(1)
  const [size, setSize] = useState<{ wide: number; tall: number } | null>(null)
  const [told, tell] = useState('')
  const picture = useRef<SVGSVGElement>(null)
  const held = useRef<{ known: boolean; at: number } | null>(null)
  const scale = () => (size === null || picture.current === null ? 1 : size.wide / picture.current.getBoundingClientRect().width)
  const enough = known.length === KNOWN[way] && points.length >= (what === 'circle' ? 3 : WANTED[what]) && isSaid(way, said)
  const asked: OffAPhoto = { known: known.map(([x, y]) => [x, y]), points: points.map(([x, y]) => [x, y]), what, ...sizesIn(said), ...(way === 'length' ? { height: 0 } : {}), pick_px: Math.min(100, HAND_PX * scale()) }
  const read = useQuery({ ...queries.offAPhoto(asked), enabled: enough })
  const place = (event: PointerEvent): Point => {
    const box = picture.current?.getBoundingClientRect()
    return box === undefined || size === null ? [0, 0] : [((event.clientX - box.left) / box.width) * size.wide, ((event.clientY - box.top) / box.height) * size.tall]
  }
  const near = (list: readonly Point[], at: Point) => list.findIndex(([x, y]) => Math.hypot(x - at[0], y - at[1]) < NEAR_PX * scale())
  const onDown = (event: PointerEvent) => {
    const at = place(event)
    const [k, p] = [near(known, at), near(points, at)]
    if (p >= 0) held.current = { known: false, at: p }
    else if (k >= 0) held.current = { known: true, at: k }
    else if (known.length < KNOWN[way]) {
      held.current = { known: true, at: known.length }
      setKnown([...known, at])
    } else if (points.length < WANTED[what]) {
      held.current = { known: false, at: points.length }
      setPoints([...points, at])
    }
    event.currentTarget.setPointerCapture(event.pointerId)
  }
  const onMove = (event: PointerEvent) => {
    const now = held.current
    if (now === null) return
    const at = place(event)
    const moved = (list: readonly Point[]) => list.map((p, i) => (i === now.at ? at : p))
    if (now.known) setKnown(moved(known))
    else setPoints(moved(points))
  }
  const wanted = known.length < KNOWN[way] ? (way === 'length' ? `Pick the ends of the known length: ${KNOWN[way] - known.length} to go.` : `Pick the corners of the known rectangle in turn: ${KNOWN[way] - known.length} to go.`) : !isSaid(way, said) ? 'Type in what is known, in mm, and its ±.' : points.length < (what === 'circle' ? 3 : WANTED[what]) ? (what === 'circle' ? 'Pick three or more points on the circle.' : what === 'angle' ? 'Pick a point on one leg, the corner, a point on the other.' : 'Pick the two ends of what is read.') : ''
  const mark = scale()
  const field = (key: keyof typeof said, words: string) => (
    <label className="field">
      {words}
      <input className="mono" value={said[key]} maxLength={12} onChange={(e) => say({ ...said, [key]: e.target.value })} />
    </label>
  )
  const unit = read.data?.kind === 'angle' ? 'deg' : system
  return (
    <Dialog open onClose={close} maxWidth={false} aria-labelledby="photo-title">
      <div className="photomeasure">
        <div className="panelhead">
          <h2 id="photo-title">Read off the photo</h2>
          <button type="button" className="plainbutton" onClick={close}>
            Close
          </button>
        </div>
        <div className="options">
          <label className="field">
            Known is
            <select
              value={way}
              onChange={(e) => {
                setWay(e.target.value as Way)
                setKnown([])
              }}
            >
              <option value="length">a length in the plane of what is read</option>
              <option value="rectangle">a rectangle in that plane, four corners</option>
            </select>
          </label>
          {field('width', way === 'length' ? 'its length, mm' : 'its width, first to second corner, mm')}
          {field('width_pm', '±, mm')}
          {way === 'rectangle' && field('height', 'its height, second to third corner, mm')}
          {way === 'rectangle' && field('height_pm', '±, mm')}
          <label className="field">
            Read
            <select
              value={what}
              onChange={(e) => {
                setWhat(e.target.value as What)
                setPoints([])
              }}
            >
              <option value="length">a length</option>
              <option value="angle">an angle</option>
              <option value="circle">the diameter of a circle</option>
            </select>
          </label>
          <label className="field">
            Larger
            <select value={zoom} onChange={(e) => setZoom(Number(e.target.value))}>
              {ZOOMS.map((z) => (
                <option key={z} value={z}>
                  {z} times
                </option>
              ))}
            </select>
          </label>
          <button type="button" className="quiet" onClick={() => (points.length > 0 ? setPoints(points.slice(0, -1)) : setKnown(known.slice(0, -1)))}>
            take the last point back
          </button>
        </div>
        <p className="photoread" role="status" aria-label="Read off">
          {wanted !== '' ? (
            wanted
          ) : read.isError ? (
            <span className="fouls">{read.error.message}</span>
          ) : read.data === undefined ? (
            'Reading'
          ) : (
            <>
              <b className="mono">
                {figure(read.data.value, read.data.kind, system, read.data.pm)} ± {figure(read.data.pm, read.data.kind, system, read.data.pm)} {unit}
              </b>
              <KeepIt value={read.data.value} pm={read.data.pm} kind={read.data.kind} entry={entry} tell={tell} />
            </>
          )}
        </p>
        {told !== '' && <p role="status">{told}</p>}
        <p className="soft">What lies in front of or behind the plane of what is known is drawn larger or smaller: the ± does not know that. With a length alone it holds a photo taken up to 11 deg from the side.</p>
        <div className="photoscroll">
          <div className="photostage" style={{ width: `calc(min(100%, ${size === null ? 100 : (52 * size.wide) / size.tall}vh) * ${zoom})` }}>
            <img src={address} alt="" onLoad={(e) => setSize({ wide: e.currentTarget.naturalWidth, tall: e.currentTarget.naturalHeight })} />
            {size !== null && (
              <svg ref={picture} viewBox={`0 0 ${size.wide} ${size.tall}`} role="img" aria-label="The photo, with what is known and what is read" onPointerDown={onDown} onPointerMove={onMove} onPointerUp={() => (held.current = null)}>
                <polygon className="photoknown" points={known.map((p) => p.join(',')).join(' ')} strokeWidth={2 * mark} />
                {what !== 'circle' && <polyline className="photoline" points={points.map((p) => p.join(',')).join(' ')} strokeWidth={2 * mark} />}
                {known.map(([x, y], i) => (
                  <circle key={`k${i}`} className="photoknown" cx={x} cy={y} r={6 * mark} strokeWidth={2 * mark} />
                ))}
                {points.map(([x, y], i) => (
                  <circle key={`p${i}`} className="photoline" cx={x} cy={y} r={6 * mark} strokeWidth={2 * mark} />
                ))}
              </svg>
            )}
          </div>
        </div>
      </div>
    </Dialog>
  )
}
