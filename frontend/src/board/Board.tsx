import { useMemo, useState, type ReactNode } from 'react'
import type { Callout, Drawing, Finding } from '../api/types'
import { figure } from '../api/units'
import { useBuild } from '../shell/buildContext'
import { DragHandle } from './DragHandle'
import { fit, lettersNear, nearerPart, type Box, type Bubble, type Place } from './place'
import { Ruler } from './Ruler'
import { Shapes } from './Shapes'
import { SizeBox, SizeLine } from './SizeInPicture'
import { useSize } from './useSize'

interface Props {
  drawing: Drawing
  label: string
  ruler: boolean
  /** Room in pixels round the picture, for letters and ruler. */
  edge: number
  children?: ReactNode
}

/** A finding drawn where it is, as a dimensioned gap in its verdict's hue. */
function GapMark({ gap, finding, place }: { gap: Drawing['gaps'][number]; finding: Finding; place: Place }) {
  const { system, openFinding, setOpenFinding } = useBuild()
  const [x1, x2, y1, y2] = [place.x(gap.x1), place.x(gap.x2), place.y(gap.y1), place.y(gap.y2)]
  const spot = Math.hypot(x2 - x1, y2 - y1) < 1
  const text = finding.value == null ? '' : figure(finding.value, finding.kind, system, finding.u ?? 0)
  return (
    <g className={`gap ${finding.verdict} ${openFinding === finding.id ? 'chosen' : ''}`} onClick={() => setOpenFinding(finding.id)}>
      <title>{finding.sentence.mm}</title>
      {spot ? <circle cx={x1} cy={y1} r="13" /> : <line x1={x1} y1={y1} x2={x2} y2={y2} />}
      {finding.kind === 'length' && (
        <text x={(x1 + x2) / 2} y={Math.min(y1, y2) - (spot ? 16 : 5)} textAnchor="middle" className="mono">
          {text}
        </text>
      )}
    </g>
  )
}

// Two letters want a longer bubble than one.
const bubbleHalf = (letter: string) => (letter.length > 1 ? 16 : 10.5)

function Callouts({ bubbles, choose }: { bubbles: readonly Bubble[]; choose: (address: string) => void }) {
  const { lit, light, assessment } = useBuild()
  return (
    <>
      {bubbles.map((b) => {
        const missing = assessment.quantities[b.address]?.value == null
        return (
          <g key={b.address} data-callout={b.address} className={`callout ${lit === b.address ? 'lit' : ''} ${missing ? 'missing' : ''}`} onPointerEnter={() => light(b.address)} onPointerLeave={() => light('')} onClick={() => choose(b.address)}>
            <line x1={b.bubble[0]} y1={b.bubble[1]} x2={b.at[0]} y2={b.at[1]} />
            <circle cx={b.at[0]} cy={b.at[1]} r="1.8" className="anchor" />
            <rect x={b.bubble[0] - bubbleHalf(b.letter)} y={b.bubble[1] - 10.5} width={2 * bubbleHalf(b.letter)} height="21" rx="10.5" className="bubble" />
            <text x={b.bubble[0]} y={b.bubble[1] + 4.5} textAnchor="middle">
              {b.letter}
            </text>
          </g>
        )
      })}
    </>
  )
}

/** Where the values of gaps and of grips, and words of the picture stand: no label may cover them. */
function takenBy(drawing: Drawing, findings: ReadonlyMap<string, Finding>, openFinding: string, place: Place): Box[] {
  const gaps = drawing.gaps
    .filter((g) => gapShown(findings.get(g.finding), openFinding))
    .map((g): Box => ({ x: (place.x(g.x1) + place.x(g.x2)) / 2, y: Math.min(place.y(g.y1), place.y(g.y2)) - 12, w: 50, h: 20 }))
  const notes = drawing.notes.map((n): Box => ({ x: place.x(n.x) + 4 * n.text.length, y: place.y(n.y) - 5, w: 8.4 * n.text.length, h: 16 }))
  return [...gaps, ...notes, ...drawing.handles.map((h): Box => ({ x: place.x(h.x) + 50, y: place.y(h.y), w: 130, h: 24 }))]
}

const gapShown = (finding: Finding | undefined, openFinding: string): finding is Finding =>
  finding !== undefined && (finding.verdict === 'fouls' || finding.verdict === 'tight' || openFinding === finding.id)

/** Letters that a picture holds at most; the size that is looked at comes beside them. */
const MOST_LETTERS = 14
/** Pixels below which a board shows neither ruler nor words. */
const LOW = 220

/** A station's picture: to scale, live, with lettered callouts, findings where they are, and handles to drag. */
export function Board({ drawing, label, ruler, edge, children }: Props) {
  const { assessment, lit, openFinding, dimension } = useBuild()
  const [ref, size] = useSize<HTMLDivElement>()
  const [typing, type] = useState('')
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
  const looked = typing || lit
  const callout = drawing.callouts.find((c) => c.address === looked)
  const row = callout && dimension(callout.address)
  const extra = drawing.callouts.indexOf(callout as Callout) >= MOST_LETTERS ? looked : ''
  const taken = useMemo(() => takenBy(drawing, findings, openFinding, place), [drawing, findings, openFinding, place])
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
          <svg width={size.width} height={size.height}>
            <desc>{drawing.view}</desc>
            <defs>
              <pattern id="hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <line x1="0" y1="0" x2="0" y2="7" stroke="var(--hatch)" strokeWidth="1" />
              </pattern>
            </defs>
            <Shapes drawing={drawing} place={place} taken={full} width={size.width} height={size.height} />
            {!low && drawing.notes.map((n) => (
              <text key={n.text} x={place.x(n.x)} y={place.y(n.y)} className="boardnote">
                {n.text}
              </text>
            ))}
            {ruler && !low && <Ruler drawing={seen} place={place} width={size.width} y={size.height - 22} />}
            <Callouts bubbles={bubbles} choose={type} />
            {drawing.gaps.map((gap) => {
              const finding = findings.get(gap.finding)
              return gapShown(finding, openFinding) ? <GapMark key={gap.finding} gap={gap} finding={finding} place={place} /> : null
            })}
            {callout && <SizeLine callout={callout} place={place} />}
            {drawing.handles.map((h) => (
              <DragHandle key={h.address} handle={h} place={place} hold={(on) => hold(on ? { place, bubbles } : null)} />
            ))}
          </svg>
        )}
        {callout && row && held === null && (
          <SizeBox callout={callout} row={row} place={place} taken={full} width={size.width} height={size.height} typing={typing === looked} stop={() => type('')} />
        )}
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
