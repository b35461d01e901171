import { useMemo } from 'react'
import type { Station } from '../api/types'
import { fit, path } from '../board/place'
import { useSize } from '../board/useSize'
import { useBuild } from '../shell/buildContext'

interface Props {
  go: (to: Station) => void
  openEvent: () => void
  openList: () => void
  plan: boolean
  swap: () => void
}

/** The whole build in side view, to scale, from the numbers known so far; flags lead to findings. */
export function ProfileStrip({ go, openEvent, openList, plan, swap }: Props) {
  const { boards, assessment, state, setOpenFinding, system } = useBuild()
  const drawing = plan ? boards.plan : boards.profile
  const [ref, size] = useSize<HTMLDivElement>()
  const place = useMemo(() => fit(drawing, size.width, size.height, 4), [drawing, size])
  const flags = drawing.gaps.flatMap((g) => {
    const finding = assessment.findings.find((f) => f.id === g.finding)
    return finding ? [{ gap: g, finding }] : []
  })
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
            {flags.map(({ gap, finding }, i) => (
              <line key={finding.id} className={`flagline ${finding.verdict}`} x1={place.x(gap.x1) + i * 5} y1={place.y(gap.y1)} x2={place.x(gap.x1) + i * 5} y2={12 + i * 21} />
            ))}
          </svg>
        )}
        {size.width > 0 &&
          flags.map(({ gap, finding }, i) => (
            <button
              key={finding.id}
              type="button"
              className={`flag ${finding.verdict}`}
              style={{ left: place.x(gap.x1) + i * 5 + 4, top: 2 + i * 21 }}
              onClick={() => {
                go(finding.station)
                setOpenFinding(finding.id)
              }}
              title={system === 'in' ? finding.sentence.inch : finding.sentence.mm}
            >
              {finding.title}
            </button>
          ))}
        <p className="viewpoint">{drawing.view}</p>
      </div>
      <div className="unitstate">
        <span className="soft">State of the unit</span>
        <span>{words.join(', ') || 'not said'}</span>
        <button type="button" className="quiet" onClick={openEvent}>
          Something happened
        </button>
        <div>
          <button type="button" className="quiet" onClick={openList}>
            {boards.open_items.length} open
          </button>
          <button type="button" className="quiet" onClick={swap}>
            {plan ? 'from the side' : 'from above'}
          </button>
        </div>
      </div>
    </section>
  )
}
