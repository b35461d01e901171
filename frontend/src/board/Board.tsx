import { useCallback, useMemo, useState, type ReactNode } from 'react'
import type { Drawing, Finding } from '../api/types'
import { useBuild } from '../shell/buildContext'
import { useLooked } from '../shell/looked'
import { Callouts } from './Callouts'
import { drawnAt } from './em'
import { DragHandle } from './DragHandle'
import { GapMark, gapShown } from './GapMark'
import { fit, lettersNear, nearerPart, type Box, type Bubble, type Place } from './place'
import { Ruler } from './Ruler'
import { Shapes } from './Shapes'
import { SizeBox, SizeLine } from './SizeInPicture'
import { useSize } from './useSize'
import './board.css'

interface Props {
  drawing: Drawing
  label: string
  ruler: boolean
  /** Room in pixels round the picture, for letters and ruler. */
  edge: number
  children?: ReactNode
}

/** Where the values of gaps and of grips, and words of the picture stand: no label may cover them. */
function takenBy(drawing: Drawing, findings: ReadonlyMap<string, Finding>, open: string, place: Place): Box[] {
  const gaps = drawing.gaps
    .filter((g) => gapShown(findings.get(g.finding), open))
    .map((g): Box => ({ x: (place.x(g.x1) + place.x(g.x2)) / 2, y: Math.min(place.y(g.y1), place.y(g.y2)) - 12, w: 50, h: 20 }))
  const notes = drawing.notes.map((n): Box => ({ x: place.x(n.x) + 4 * n.text.length, y: place.y(n.y) - 5, w: 8.4 * n.text.length, h: 16 }))
  return [...gaps, ...notes, ...drawing.handles.map((h): Box => ({ x: place.x(h.x) + 50, y: place.y(h.y), w: 130, h: 24 }))]
}

/** Letters that a picture holds at most; the size that is looked at comes beside them. */
const MOST_LETTERS = 14
/** Pixels below which a board shows neither ruler nor words. */
const LOW = 220

/** A station's picture: to scale, live, with lettered callouts, findings where they are, and handles to drag. */
export function Board({ drawing, label, ruler, edge, children }: Props) {
  const { assessment } = useBuild()
  const open = useLooked((l) => l.finding)
  const [ref, size] = useSize<HTMLDivElement>()
  const [typing, type] = useState('')
  const stop = useCallback(() => type(''), [])
  // While something is dragged scale and letters stand still: what is under the pointer stays under it.
  const [held, hold] = useState<{ place: Place; bubbles: readonly Bubble[] } | null>(null)
  // A low board has no room to give away.
  const low = size.height < LOW
  const part = useMemo(() => nearerPart(drawing, size.width, size.height), [drawing, size])
  const [near, setNear] = useState(false)
  const seen = near && part !== null ? part : drawing
  const fitted = useMemo(() => fit(seen, size.width, size.height, low ? 8 : edge), [seen, size, edge, low])
  const place = held?.place ?? fitted
  const findings = useMemo(() => new Map(assessment.findings.map((f) => [f.id, f])), [assessment])
  const others = useMemo(() => new Set(drawing.callouts.slice(MOST_LETTERS).map((c) => c.address)), [drawing])
  const extra = useLooked((l) => (others.has(typing || l.lit) ? typing || l.lit : ''))
  const taken = useMemo(() => takenBy(drawing, findings, open, place), [drawing, findings, open, place])
  const bubbles = useMemo(() => {
    const shown = drawing.callouts.filter((c, i) => i < MOST_LETTERS || c.address === extra)
    const marks = shown.map((c) => ({ letter: c.letter, address: c.address, at: [place.x(c.x), place.y(c.y)] as const }))
    if (held !== null) {
      const stood = new Map(held.bubbles.map((b) => [b.address, b.bubble]))
      return marks.flatMap((m): Bubble[] => (stood.has(m.address) ? [{ ...m, bubble: stood.get(m.address) ?? m.at }] : []))
    }
    return lettersNear(marks, taken, size.width, size.height - (ruler && !low ? 44 : 0))
  }, [drawing, extra, held, low, place, ruler, size, taken])
  const full = useMemo(() => [...taken, ...bubbles.map((b): Box => ({ x: b.bubble[0], y: b.bubble[1], w: 25, h: 23 }))], [bubbles, taken])
  return (
    <div className="board" role="group" aria-label={label}>
      <div className="boardpicture" ref={ref}>
        {size.width > 0 && (
          <svg {...drawnAt(size.width, size.height)}>
            <desc>{drawing.view}</desc>
            <defs>
              <pattern id="hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <line x1="0" y1="0" x2="0" y2="7" stroke="var(--hatch)" strokeWidth="1" />
              </pattern>
            </defs>
            <Shapes drawing={drawing} place={place} taken={full} width={size.width} height={size.height} />
            {!low && drawing.notes.map((n) => (
              <text key={`${n.text} ${n.x} ${n.y}`} x={place.x(n.x)} y={place.y(n.y)} className="boardnote">
                {n.text}
              </text>
            ))}
            {ruler && !low && <Ruler drawing={seen} place={place} width={size.width} y={size.height - 22} />}
            <Callouts bubbles={bubbles} choose={type} />
            {drawing.gaps.map((gap) => {
              const finding = findings.get(gap.finding)
              return gapShown(finding, open) ? <GapMark key={gap.finding} gap={gap} finding={finding} place={place} /> : null
            })}
            <SizeLine callouts={drawing.callouts} typing={typing} place={place} />
            {drawing.handles.map((h) => (
              <DragHandle key={h.address} handle={h} place={place} hold={(on) => hold(on ? { place, bubbles } : null)} />
            ))}
          </svg>
        )}
        {held === null && <SizeBox callouts={drawing.callouts} place={place} taken={full} width={size.width} height={size.height} typing={typing} stop={stop} />}
      </div>
      <div className="boardfoot">
        <p className="viewpoint">{drawing.view}</p>
        {part !== null && (
          <button type="button" className="quiet" aria-pressed={near} onClick={() => setNear(!near)}>
            {near ? 'all of it' : 'nearer'}
          </button>
        )}
        {children}
      </div>
    </div>
  )
}
