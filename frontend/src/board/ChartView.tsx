import type { Chart, System } from '../api/types'
import { figure, unitOf } from '../api/units'
import { useBuild } from '../shell/buildContext'
import { useSize } from './useSize'

interface Axis {
  readonly low: number
  readonly high: number
}

const range = (values: readonly number[]): Axis => {
  const low = Math.min(...values)
  const high = Math.max(...values)
  const room = Math.max((high - low) * 0.08, 0.2)
  return { low: low - room, high: high + room }
}

const EDGE = { left: 62, right: 66, top: 22, bottom: 40 }

/** Label at the end of a line, kept off its neighbours. */
function spreadLabels(ys: readonly number[], low: number, high: number): number[] {
  const order = ys.map((y, i) => [y, i] as const).sort((a, b) => a[0] - b[0])
  const placed = [...ys]
  let last = low - 16
  for (const [y, i] of order) {
    last = Math.min(Math.max(y, last + 16), high)
    placed[i] = last
  }
  return placed
}

/** Lines over one variable: angles on the left scale, lengths on the right one. */
export function ChartView({ chart }: { chart: Chart }) {
  const { system } = useBuild()
  const [ref, size] = useSize<HTMLDivElement>()
  return (
    <div className="chart" ref={ref}>
      {size.width > 0 && <Lines chart={chart} width={size.width} height={size.height} system={system} />}
    </div>
  )
}

function Lines({ chart, width, height, system }: { chart: Chart; width: number; height: number; system: System }) {
  const angles = chart.series.filter((s) => s.kind === 'angle')
  const lengths = chart.series.filter((s) => s.kind !== 'angle')
  const [x0, x1] = [chart.x[0] ?? 0, chart.x.at(-1) ?? 1]
  const left = range([0, ...angles.flatMap((s) => [...s.values, ...(s.limit == null ? [] : [s.limit])])])
  const right = range([0, ...lengths.flatMap((s) => s.values)])
  const x = (v: number) => EDGE.left + ((v - x0) / (x1 - x0)) * (width - EDGE.left - EDGE.right)
  const y = (v: number, axis: Axis) => height - EDGE.bottom - ((v - axis.low) / (axis.high - axis.low)) * (height - EDGE.top - EDGE.bottom)
  const lines = [...angles.map((s) => ({ s, axis: left })), ...lengths.map((s) => ({ s, axis: right }))]
  const names = spreadLabels(
    lines.map(({ s, axis }) => y(s.values[Math.floor(s.values.length * 0.12)] ?? 0, axis) - 6),
    EDGE.top,
    height - EDGE.bottom,
  )
  const limit = angles[0]?.limit
  const ticks = (axis: Axis) => [0, 0.25, 0.5, 0.75, 1].map((t) => axis.low + t * (axis.high - axis.low))
  return (
    <svg width={width} height={height} role="img" aria-label={`${chart.title}: ${chart.series.map((s) => s.name).join(', ')}`}>
      <text x={EDGE.left} y={14} className="chartname">
        {chart.title}
      </text>
      <line x1={EDGE.left} x2={width - EDGE.right} y1={height - EDGE.bottom} y2={height - EDGE.bottom} className="chartaxis" />
      <line x1={x(0)} x2={x(0)} y1={EDGE.top} y2={height - EDGE.bottom} className="chartzero" />
      {ticks(left).map((v) => (
        <text key={v} x={EDGE.left - 6} y={y(v, left) + 4} textAnchor="end" className="mono charttick">
          {v.toFixed(1)}°
        </text>
      ))}
      {lengths.length > 0 &&
        ticks(right).map((v) => (
          <text key={v} x={width - EDGE.right + 6} y={y(v, right) + 4} className="mono charttick">
            {figure(v, 'length', system, 1)}
          </text>
        ))}
      {[x0, 0, x1].map((v) => (
        <text key={v} x={x(v)} y={height - EDGE.bottom + 16} textAnchor="middle" className="mono charttick">
          {figure(v, 'length', system, 1)}
        </text>
      ))}
      <text x={width / 2} y={height - 5} textAnchor="middle" className="charttick">
        {chart.x_name}, {unitOf('length', system)}
        {lengths.length > 0 && `; right scale: change of length, ${unitOf('length', system)}`}
      </text>
      {limit != null && (
        <g className="chartlimit">
          <line x1={EDGE.left} x2={width - EDGE.right} y1={y(limit, left)} y2={y(limit, left)} />
          <text x={width - EDGE.right - 4} y={y(limit, left) - 4} textAnchor="end">
            at most {limit.toFixed(1)}°
          </text>
        </g>
      )}
      {lines.map(({ s, axis }, i) => (
        <g key={s.name} className={`chartline line${i}`}>
          <path d={s.values.map((v, k) => `${k === 0 ? 'M' : 'L'}${x(chart.x[k] ?? 0).toFixed(1)},${y(v, axis).toFixed(1)}`).join('')} />
          <text x={x(chart.x[Math.floor(s.values.length * 0.12)] ?? 0)} y={names[i]}>
            {s.name}
          </text>
        </g>
      ))}
    </svg>
  )
}
