import { useMemo } from 'react'
import type { Drawing, Station } from '../api/types'
import { fit, path, type Place } from '../board/place'
import { useSize } from '../board/useSize'
import { ToolInHand } from '../entry/ToolInHand'
import { VerdictGlyph } from '../findings/VerdictGlyph'
import { useBuild } from '../shell/buildContext'

const WORDS = 20
const ROW = 24

const NOTHING: Drawing = { name: '', view: '', two_sided: false, rules: false, x_low: 0, x_high: 1, y_low: 0, y_high: 1, shapes: [], rounds: [], callouts: [], gaps: [], handles: [], notes: [] }

interface Props {
  go: (to: Station, question?: string) => void
  openEvent: () => void
  openList: () => void
  plan: boolean
  swap: () => void
}

/** The whole build in side view, to scale, from the numbers known so far; flags lead to findings. */
export function ProfileStrip({ go, openEvent, openList, plan, swap }: Props) {
  const { boards, assessment, state, setOpenFinding, system } = useBuild()
  const drawing = boards['']?.drawings[plan ? 1 : 0] ?? NOTHING
  const [ref, size] = useSize<HTMLDivElement>()
  // Flags stand in a column of their own, so that none covers the vehicle; a thin line leads each to its place.
  const column = size.width > 760 ? 262 : 216
  const place = useMemo((): Place => {
    const inner = fit(drawing, size.width - column, size.height - WORDS, 4)
    return { ...inner, x: (mm) => column + inner.x(mm) }
  }, [column, drawing, size])
  const flags = drawing.gaps
    .flatMap((gap) => {
      const finding = assessment.findings.find((f) => f.id === gap.finding)
      return finding ? [{ finding, x: place.x(gap.x1), y: place.y(gap.y1) }] : []
    })
    .sort((a, b) => a.y - b.y)
  const s = state.document.state
  const words = [s.position && `unit on the ${s.position}`.replace('on the hung', 'hung').replace('on the resting', 'resting'), s.gearbox && `gearbox ${s.gearbox}`, s.slots && `slots ${s.slots}`, s.ride && `at ${s.ride}`].filter(Boolean)
  return (
    <section className="profile" aria-label="Profile of the build">
      <div className="profilepicture" ref={ref}>
        {size.width > 0 && (
          <svg width={size.width} height={size.height} role="img" aria-label={drawing.view}>
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
                <path d={`M${column + 4},${5 + ROW * (i + 0.5)}H${column + 12}L${x},${y}`} />
                <circle cx={x} cy={y} r="3" />
              </g>
            ))}
          </svg>
        )}
        <ul className="flags" style={{ width: column }}>
          {flags.map(({ finding }) => (
            <li key={finding.id}>
              <button
                type="button"
                className={`flag ${finding.verdict}`}
                onClick={() => {
                  go(finding.station, finding.question)
                  setOpenFinding(finding.id)
                }}
                title={system === 'in' ? finding.sentence.inch : finding.sentence.mm}
              >
                <span>{finding.title}</span>
                <VerdictGlyph verdict={finding.verdict} small />
              </button>
            </li>
          ))}
        </ul>
        <p className="viewpoint">{drawing.view}</p>
      </div>
      <div className="unitstate">
        <span className="soft">State of the unit</span>
        <span>{words.join(', ') || 'not said'}</span>
        <ToolInHand />
        <div>
          <button type="button" className="quiet" onClick={openEvent}>
            Something happened
          </button>
          <button type="button" className="quiet" onClick={openList}>
            {assessment.opens.length} open
          </button>
          <button type="button" className="quiet" onClick={swap}>
            {plan ? 'from the side' : 'from above'}
          </button>
        </div>
      </div>
    </section>
  )
}
