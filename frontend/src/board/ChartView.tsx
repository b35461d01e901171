import type { ReactNode } from 'react'
import type { Chart, System } from '../api/types'
import { figure, inShown, unitOf } from '../api/units'
import { useBuild } from '../shell/buildContext'
import { drawnAt } from './em'
import { useSize } from './useSize'
import './board.css'

interface Axis {
  readonly low: number
  readonly high: number
}

const EDGE = { left: 62, right: 66, top: 32, bottom: 40 }
const TICKS = 6
const NAMES = 270
const SAMPLE = 34
const LETTER = 7.4

const tick = (v: number) => String(Math.round(v * 1e3) / 1e3).replace('-', '−')

/** A scale with round steps (1, 2 or 5 times a power of ten) that holds all values and nought. */
function scaleOf(values: readonly number[]): Axis & { readonly ticks: readonly number[] } {
  const [low, high] = [Math.min(0, ...values), Math.max(0, ...values)]
  const rough = Math.max(high - low, 1e-3) / TICKS
  const power = 10 ** Math.floor(Math.log10(rough))
  const step = power * ([1, 2, 5].find((k) => k * power >= rough) ?? 10)
  const [first, last] = [Math.floor(low / step + 1e-9), Math.ceil(high / step - 1e-9)]
  const ticks = Array.from({ length: last - first + 1 }, (_, i) => (first + i) * step)
  return { low: first * step, high: last * step, ticks }
}

/** Lines over one variable: angles on the left scale, lengths on the right one. */
export default function ChartView({ chart, children }: { chart: Chart; children?: ReactNode }) {
  const { system } = useBuild()
  const [ref, size] = useSize<HTMLDivElement>()
  return (
    <div className="chart">
      <div className="chartpicture" ref={ref}>
        {size.width > 0 && <Lines chart={chart} width={size.width} height={size.height} system={system} />}
      </div>
      <div className="boardfoot">
        <p className="viewpoint">{chart.title.toLowerCase()}</p>
        {children}
      </div>
    </div>
  )
}

function Lines({ chart, width, height, system }: { chart: Chart; width: number; height: number; system: System }) {
  const angles = chart.series.filter((s) => s.kind === 'angle')
  const lengths = chart.series.filter((s) => s.kind !== 'angle')
  const unit = unitOf('length', system)
  const shown = (mm: number) => inShown(mm, 'length', system)
  const [x0, x1] = [chart.x[0] ?? 0, chart.x.at(-1) ?? 1]
  const left = scaleOf(angles.flatMap((s) => [...s.values, ...(s.limit == null ? [] : [s.limit])]))
  const right = scaleOf(lengths.flatMap((s) => s.values.map((v) => shown(v))))
  const x = (v: number) => EDGE.left + ((v - x0) / (x1 - x0)) * (width - EDGE.left - EDGE.right)
  const y = (v: number, axis: Axis) => height - EDGE.bottom - ((v - axis.low) / (axis.high - axis.low)) * (height - EDGE.top - EDGE.bottom)
  const lines = [...angles.map((s) => ({ name: s.name, values: s.values, axis: left })), ...lengths.map((s) => ({ name: s.name, values: s.values.map(shown), axis: right }))]
  // Names stand one after the other, each as wide as it is.
  const nameAt = (i: number) => lines.slice(0, i).reduce((at, line) => at + SAMPLE + 16 + LETTER * line.name.length, NAMES)
  const limit = angles[0]?.limit
  return (
    <svg {...drawnAt(width, height)} role="img" aria-label={`${chart.title}: ${chart.series.map((s) => s.name).join(', ')}`}>
      <text x={EDGE.left} y={14} className="chartname">
        {chart.title}
      </text>
      <line x1={EDGE.left} x2={width - EDGE.right} y1={height - EDGE.bottom} y2={height - EDGE.bottom} className="chartaxis" />
      <line x1={x(0)} x2={x(0)} y1={EDGE.top} y2={height - EDGE.bottom} className="chartzero" />
      {left.ticks.map((v) => (
        <text key={v} x={EDGE.left - 6} y={y(v, left) + 4} textAnchor="end" className="mono charttick">
          {tick(v)}°
        </text>
      ))}
      {lengths.length > 0 &&
        right.ticks.map((v) => (
          <text key={v} x={width - EDGE.right + 6} y={y(v, right) + 4} className="mono charttick">
            {tick(v)}
          </text>
        ))}
      {[x0, 0, x1].map((v) => (
        <text key={v} x={x(v)} y={height - EDGE.bottom + 16} textAnchor="middle" className="mono charttick">
          {figure(v, 'length', system, 1)}
        </text>
      ))}
      <text x={width / 2} y={height - 5} textAnchor="middle" className="charttick">
        {chart.x_name}, {unit}
        {lengths.length > 0 && `; right scale: change of length, ${unit}`}
      </text>
      {limit != null && (
        <g className="chartlimit">
          <line x1={EDGE.left} x2={width - EDGE.right} y1={y(limit, left)} y2={y(limit, left)} />
          <text x={width - EDGE.right - 4} y={y(limit, left) + 15} textAnchor="end">
            at most {limit.toFixed(1)}°
          </text>
        </g>
      )}
      {lines.map(({ name, values, axis }, i) => (
        <g key={name} className={`chartline line${i}`}>
          <path d={values.map((v, k) => `${k === 0 ? 'M' : 'L'}${x(chart.x[k] ?? 0).toFixed(1)},${y(v, axis).toFixed(1)}`).join('')} />
          <path d={`M${nameAt(i)},10h28`} />
          <text x={nameAt(i) + SAMPLE} y={14}>
            {name}
          </text>
        </g>
      ))}
    </svg>
  )
}
