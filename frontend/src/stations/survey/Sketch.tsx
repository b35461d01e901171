import { useQuery } from '@tanstack/react-query'
import { queries } from '../../api/client'
import type { Drawing } from '../../api/types'
import { useBuild } from '../../shell/buildContext'
import './survey.css'

type Callout = Drawing['callouts'][number]
/** Share of the picture that is seen at least, round the size. */
const SEEN = 0.3

/** The window round a size, to scale: x, y (down), width, height. */
function windowOf(drawing: Drawing, callout: Callout): readonly [number, number, number, number] {
  const [x1, y1, x2, y2] = callout.stretch ?? [callout.x, callout.y, callout.x, callout.y]
  const wide = Math.max(SEEN * (drawing.x_high - drawing.x_low), 2.2 * Math.abs(x2 - x1), 3 * Math.abs(y2 - y1))
  const high = wide * 0.62
  return [(x1 + x2) / 2 - wide / 2, -(y1 + y2) / 2 - high / 2, wide, high]
}

/** What is measured, out of the picture of its question: nothing where no picture shows it. */
export function Sketch({ question, address, name }: { question: string; address: string; name: string }) {
  const { state } = useBuild()
  const boards = useQuery(queries.boards(state.id, state.tag, question)).data?.boards
  const drawing = boards?.[question]?.drawings.find((d) => d.callouts.some((c) => c.address === address))
  const callout = drawing?.callouts.find((c) => c.address === address)
  if (drawing === undefined || callout === undefined) return null
  const [x, y, wide, high] = windowOf(drawing, callout)
  const [x1, y1, x2, y2] = callout.stretch ?? [callout.x, callout.y, callout.x, callout.y]
  const end = wide / 60
  return (
    <svg className="sketch" viewBox={`${x} ${y} ${wide} ${high}`} role="img" aria-label={`Where ${name} is`}>
      {drawing.shapes.map((s, i) => (
        <path key={i} className={`shape ${s.style}`} vectorEffect="non-scaling-stroke" d={`M${s.points.map(([px, py]) => `${px},${-py}`).join('L')}${s.closed ? 'Z' : ''}`} />
      ))}
      {drawing.notes.map((n) => (
        <text key={n.text} x={n.x} y={-n.y} fontSize={wide / 18}>
          {n.text}
        </text>
      ))}
      {drawing.rounds.map((r, i) => (
        <circle key={i} vectorEffect="non-scaling-stroke" cx={r.x} cy={-r.y} r={r.d / 2} />
      ))}
      <path className="measured" vectorEffect="non-scaling-stroke" d={`M${x1},${-y1}L${x2},${-y2}`} />
      {[[x1, y1] as const, [x2, y2] as const].map(([px, py], i) => (
        <circle key={i} className="measured" vectorEffect="non-scaling-stroke" cx={px} cy={-py} r={end} />
      ))}
    </svg>
  )
}
