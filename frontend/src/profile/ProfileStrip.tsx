import { memo, useMemo, useState } from 'react'
import type { Drawing } from '../api/types'
import { fit, path, type Place } from '../board/place'
import { drawnAt, EM } from '../board/em'
import { useSize } from '../board/useSize'
import { ToolInHand } from '../entry/ToolInHand'
import { worstFirst } from '../findings/order'
import { VerdictGlyph } from '../findings/VerdictGlyph'
import { useBuild } from '../shell/buildContext'
import { openFinding, openPanel } from '../shell/looked'
import { useGo } from '../shell/visit'
import './profile.css'

const WORDS = 20
const ROW = 24
/** Flags that a slim strip has room for: two columns of two. */
const SLIM_FLAGS = 4

const NOTHING: Drawing = { name: '', view: '', two_sided: false, rules: false, x_low: 0, x_high: 1, y_low: 0, y_high: 1, shapes: [], rounds: [], callouts: [], gaps: [], handles: [], notes: [] }

interface Props {
  plan: boolean
  swap: () => void
}

/** The whole build in side view, to scale, from the numbers known so far; flags lead to findings. */
export const ProfileStrip = memo(function ProfileStrip({ plan, swap }: Props) {
  const { boards, assessment, state, system } = useBuild()
  const go = useGo()
  const drawing = boards['']?.drawings[plan ? 1 : 0] ?? NOTHING
  const [ref, size] = useSize<HTMLDivElement>()
  const [large, setLarge] = useState(false)
  const [lit, setLit] = useState('')
  // Flags stand in columns of their own, so that none covers the vehicle; in the large strip a thin line leads each to its place.
  const column = large ? (size.width > 760 ? 262 : 216) : Math.min(size.width * 0.56, 470)
  const place = useMemo((): Place => {
    const inner = fit(drawing, size.width - column, size.height - (large ? WORDS : 0), 4)
    return { ...inner, x: (mm) => column + inner.x(mm) }
  }, [column, drawing, large, size])
  const all = drawing.gaps
    .flatMap((gap) => {
      const finding = assessment.findings.find((f) => f.id === gap.finding)
      return finding ? [{ finding, x: place.x(gap.x1), y: place.y(gap.y1) }] : []
    })
    .sort((a, b) => a.y - b.y)
  const worst = new Set(worstFirst(all.map((f) => f.finding)).slice(0, large ? undefined : SLIM_FLAGS))
  const flags = all.filter((f) => worst.has(f.finding))
  const s = state.document.state
  const words = [s.position && `unit on the ${s.position}`.replace('on the hung', 'hung').replace('on the resting', 'resting'), s.gearbox && `gearbox ${s.gearbox}`, s.slots && `slots ${s.slots}`, s.ride && `at ${s.ride}`].filter(Boolean)
  return (
    <section className={`profile ${large ? 'large' : ''}`} aria-label="Profile of the build">
      <div className="profilepicture" ref={ref}>
        {size.width > 0 && (
          <svg {...drawnAt(size.width, size.height)} role="img" aria-label={drawing.view}>
            {drawing.shapes.map((shape, i) => (
              <path key={i} d={path(shape.points, place, shape.closed)} className={`shape ${shape.style} ${shape.known ? '' : 'assumed'}`}>
                <title>{shape.known ? shape.part : `${shape.part}: not all of it is measured`}</title>
              </path>
            ))}
            {drawing.rounds.map((r, i) => (
              <circle key={i} cx={place.x(r.x)} cy={place.y(r.y)} r={(r.d / 2) * place.scale} className={`round ${r.style} ${r.known ? '' : 'assumed'}`} />
            ))}
            {flags.map(({ finding, x, y }, i) => (
              <g key={finding.id} className={`flagline ${finding.verdict}`}>
                {(large || lit === finding.id) && <path d={large ? `M${column + 4},${5 + ROW * (i + 0.5)}H${column + 12}L${x},${y}` : `M${column},${size.height / 2}L${x},${y}`} />}
                <circle cx={x} cy={y} r={lit === finding.id ? 5 : 3} />
              </g>
            ))}
          </svg>
        )}
        <ul className="flags" style={{ width: column * EM }}>
          {flags.map(({ finding }) => (
            <li key={finding.id}>
              <button
                type="button"
                className={`flag ${finding.verdict}`}
                onPointerEnter={() => setLit(finding.id)}
                onPointerLeave={() => setLit('')}
                onFocus={() => setLit(finding.id)}
                onBlur={() => setLit('')}
                onClick={() => {
                  go(finding.station, finding.question)
                  openFinding(finding.id)
                }}
                title={system === 'in' ? finding.sentence.inch : finding.sentence.mm}
              >
                <span>{finding.title}</span>
                <VerdictGlyph verdict={finding.verdict} small />
              </button>
            </li>
          ))}
        </ul>
        <p className="viewpoint" style={large ? undefined : { width: column * EM }}>
          {drawing.view}
        </p>
        <div className="profiletools">
          <button type="button" className="quiet" onClick={swap}>
            {plan ? 'from the side' : 'from above'}
          </button>
          <button type="button" className="quiet" aria-expanded={large} onClick={() => setLarge(!large)}>
            {large ? 'smaller' : 'larger'}
          </button>
        </div>
      </div>
      <div className="unitstate">
        <span className="unitwords" title={words.join(', ')}>
          <span className="visually-hidden">State of the unit: </span>
          {words.join(', ') || 'state of the unit not said'}
        </span>
        <ToolInHand />
        <div>
          <button type="button" className="quiet" onClick={() => openPanel('event')}>
            Something happened
          </button>
          <button type="button" className="quiet" onClick={() => openPanel('open')}>
            {assessment.opens.length} open
          </button>
        </div>
      </div>
    </section>
  )
})
