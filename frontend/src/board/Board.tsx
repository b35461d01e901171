import { useMemo, useState, type ReactNode } from 'react'
import type { Drawing, Finding } from '../api/types'
import { figure } from '../api/units'
import { useBuild } from '../shell/buildContext'
import { DragHandle } from './DragHandle'
import { columnsOfBubbles, fit, path, type Bubble, type Place } from './place'
import { Ruler } from './Ruler'
import { useSize } from './useSize'

interface Props {
  drawing: Drawing
  label: string
  ruler: boolean
  /** Room in pixels round the picture, for letters and ruler. */
  edge: number
  /** A wide, low picture. */
  flat?: boolean
  children?: ReactNode
}

/** A hole's number beside it: the gearbox's outwards, the engine's inwards, so that neighbours do not cover each other. */
function HoleLabel({ round, place }: { round: Drawing['rounds'][number]; place: Place }) {
  const far = Math.hypot(round.x, round.y) || 1
  const centred = round.style === 'pulley' || round.style === 'idler'
  const out = centred ? 0 : ((round.d / 2) * place.scale + 13) * (round.part === 'gearbox' ? 1 : -1)
  return (
    <text x={place.x(round.x) + (out * round.x) / far} y={place.y(round.y) - (out * round.y) / far + 5} textAnchor="middle" className="holelabel mono">
      {round.label}
    </text>
  )
}

function Shapes({ drawing, place }: { drawing: Drawing; place: Place }) {
  return (
    <>
      {drawing.shapes.map((s, i) => (
        <path key={i} d={path(s.points, place, s.closed)} className={`shape ${s.style} ${s.known ? '' : 'assumed'}`}>
          <title>{s.known ? s.part : `${s.part}, drawn at a usual size: not all of it is measured`}</title>
        </path>
      ))}
      {drawing.rounds.map((r, i) => (
        <g key={i}>
          <circle cx={place.x(r.x)} cy={place.y(r.y)} r={Math.max((r.d / 2) * place.scale, 1)} className={`round ${r.style} ${r.known ? '' : 'assumed'}`}>
            <title>{r.label ? `${r.part} ${r.label}` : r.part}</title>
          </circle>
          {r.label && r.style !== 'land' && <HoleLabel round={r} place={place} />}
        </g>
      ))}
    </>
  )
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

function Callouts({ bubbles }: { bubbles: readonly Bubble[] }) {
  const { lit, light, assessment } = useBuild()
  const jump = (address: string) => {
    const field = document.getElementById(`line-${address}`)?.querySelector('input')
    field?.scrollIntoView({ block: 'center' })
    field?.focus()
  }
  return (
    <>
      {bubbles.map((b) => {
        const missing = assessment.quantities[b.address]?.value == null
        return (
          <g key={b.address} className={`callout ${lit === b.address ? 'lit' : ''} ${missing ? 'missing' : ''}`} onPointerEnter={() => light(b.address)} onPointerLeave={() => light('')} onClick={() => jump(b.address)}>
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

/** A station's picture: to scale, live, with lettered callouts, findings where they are, and handles to drag. */
export function Board({ drawing, label, ruler, edge, flat = false, children }: Props) {
  const { assessment, lit, openFinding } = useBuild()
  const [ref, size] = useSize<HTMLDivElement>()
  // While something is dragged the scale stands still: what is under the pointer stays under it.
  const [held, hold] = useState<Place | null>(null)
  const fitted = useMemo(() => fit(drawing, size.width, size.height, edge), [drawing, size, edge])
  const place = held ?? fitted
  const findings = useMemo(() => new Map(assessment.findings.map((f) => [f.id, f])), [assessment])
  const bubbles = useMemo(() => {
    const shown = drawing.callouts.filter((c) => c.main || c.address === lit)
    const marks = shown.map((c) => ({ letter: c.letter, address: c.address, at: [place.x(c.x), place.y(c.y)] as const }))
    const [left, right] = [place.x(drawing.x_low) - 30, place.x(drawing.x_high) + 30]
    return columnsOfBubbles(marks, Math.max(left, 16), Math.min(right, size.width - 16), size.height - (ruler ? 26 : 0), 24)
  }, [drawing, lit, place, ruler, size])
  return (
    <div className={`board ${flat ? 'flat' : ''}`} role="group" aria-label={label}>
      <div className="boardpicture" ref={ref}>
      {size.width > 0 && (
        <svg width={size.width} height={size.height}>
          <desc>{drawing.view}</desc>
          <defs>
            <pattern id="hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <line x1="0" y1="0" x2="0" y2="7" stroke="var(--hatch)" strokeWidth="1" />
            </pattern>
          </defs>
          <Shapes drawing={drawing} place={place} />
          {drawing.notes.map((n) => (
            <text key={n.text} x={place.x(n.x)} y={place.y(n.y)} className="boardnote">
              {n.text}
            </text>
          ))}
          {ruler && <Ruler drawing={drawing} place={place} width={size.width} y={size.height - 22} />}
          <Callouts bubbles={bubbles} />
          {drawing.gaps.map((gap) => {
            const finding = findings.get(gap.finding)
            const shown = finding && (finding.verdict === 'fouls' || finding.verdict === 'tight' || openFinding === finding.id)
            return shown ? <GapMark key={gap.finding} gap={gap} finding={finding} place={place} /> : null
          })}
          {drawing.handles.map((h) => (
            <DragHandle key={h.address} handle={h} place={place} hold={(on) => hold(on ? place : null)} />
          ))}
        </svg>
      )}
      {children}
      </div>
      <p className="viewpoint">{drawing.view}</p>
    </div>
  )
}
