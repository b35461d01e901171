import type { KeyboardEvent, PointerEvent, ReactNode } from 'react'
import type { Chart, System } from '../api/types'
import { figure, inShown, unitOf } from '../api/units'
import { useBuild, useTrial } from '../shell/buildContext'
import { drawnAt, EM } from './em'
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

/** Lines over one variable: angles on the left scale, lengths on the right one, or on the left where they are alone. */
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

/** The variable as it stands, to be dragged or stepped along the chart: it only ever makes a trial. */
function Standing({ chart, x, back, top, bottom }: { chart: Chart; x: (v: number) => number; back: (px: number) => number; top: number; bottom: number }) {
  const { tryValues, system, dimension } = useBuild()
  const trial = useTrial()
  const at = trial?.values[chart.sets] ?? chart.at ?? 0
  const [low, high] = [chart.x[0] ?? 0, chart.x.at(-1) ?? 0]
  const { step } = chart
  const set = (v: number) => {
    const next = Math.min(Math.max(Math.round(Math.round(v / step) * step * 1e4) / 1e4, low), high)
    if (next !== at) tryValues({ [chart.sets]: next })
  }
  const shown = `${figure(at, chart.x_kind, system)} ${unitOf(chart.x_kind, system)}`
  const pointed = (event: PointerEvent<SVGGElement>) => {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect()
    if (box !== undefined) set(back((event.clientX - box.left) / EM))
  }
  const onDown = (event: PointerEvent<SVGGElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId)
    event.currentTarget.focus()
    pointed(event)
  }
  const onMove = (event: PointerEvent<SVGGElement>) => {
    if (event.currentTarget.hasPointerCapture(event.pointerId)) pointed(event)
  }
  const onKey = (event: KeyboardEvent<SVGGElement>) => {
    const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key]
    if (way === undefined) return
    event.preventDefault()
    set(at + way * step * (event.shiftKey ? 10 : 1))
  }
  return (
    <g
      className={`standing ${trial?.values[chart.sets] === undefined ? '' : 'trying'}`}
      role="slider"
      tabIndex={0}
      aria-label={`${dimension(chart.sets)?.name ?? chart.x_name}, drag to try`}
      aria-valuenow={at}
      aria-valuemin={low}
      aria-valuemax={high}
      aria-valuetext={shown}
      onPointerDown={onDown}
      onPointerMove={onMove}
      onKeyDown={onKey}
    >
      <title>Drag along the chart to try, or use the arrow keys</title>
      <rect x={x(low)} y={top} width={x(high) - x(low)} height={bottom - top} className="reach" />
      <line x1={x(at)} x2={x(at)} y1={top} y2={bottom} />
      <path d={`M${x(at) - 6},${top}h12l-6,9z`} />
      <text x={x(at) + (x(at) > (x(low) + x(high)) / 2 ? -8 : 8)} y={bottom - 8} textAnchor={x(at) > (x(low) + x(high)) / 2 ? 'end' : 'start'} className="mono">
        {shown}
      </text>
    </g>
  )
}

function Lines({ chart, width, height, system }: { chart: Chart; width: number; height: number; system: System }) {
  const trial = useTrial()
  const kinds = [...new Set(chart.series.map((s) => s.kind))].sort()
  const shown = (v: number | null, kind: string) => (v === null ? null : inShown(v, kind, system))
  const sided = (kind: string | undefined) => {
    const own = chart.series.filter((s) => s.kind === kind)
    const values = own.flatMap((s) => [...s.values, s.limit ?? null]).map((v) => shown(v, kind ?? ''))
    return { kind, unit: kind === undefined ? '' : unitOf(kind, system), ...scaleOf(values.filter((v) => v !== null)) }
  }
  const [left, right] = [sided(kinds[0]), sided(kinds[1])]
  const [x0, x1] = [chart.x[0] ?? 0, chart.x.at(-1) ?? 1]
  const [foot, end] = [height - EDGE.bottom, width - EDGE.right]
  const x = (v: number) => EDGE.left + ((v - x0) / (x1 - x0)) * (end - EDGE.left)
  const back = (px: number) => x0 + ((px - EDGE.left) / (end - EDGE.left)) * (x1 - x0)
  const y = (v: number, axis: Axis) => foot - ((v - axis.low) / (axis.high - axis.low)) * (foot - EDGE.top)
  const lines = chart.series.map((s) => ({ name: s.name, values: s.values.map((v) => shown(v, s.kind)), axis: s.kind === left.kind ? left : right }))
  // Names stand one after the other, each as wide as it is.
  const start = Math.max(NAMES, EDGE.left + 24 + LETTER * chart.title.length)
  const nameAt = (i: number) => lines.slice(0, i).reduce((at, line) => at + SAMPLE + 16 + LETTER * line.name.length, start)
  const limit = chart.series.find((s) => s.limit != null)?.limit
  const drawn = (values: readonly (number | null)[], axis: Axis) =>
    values.map((v, k) => (v === null ? '' : `${k === 0 || values[k - 1] === null ? 'M' : 'L'}${x(chart.x[k] ?? 0).toFixed(1)},${y(v, axis).toFixed(1)}`)).join('')
  const stands = chart.sets !== '' && (chart.at != null || trial?.values[chart.sets] !== undefined)
  const marks = chart.x_kind === 'angle' ? [x0, (x0 * 3 + x1) / 4, (x0 + x1) / 2, (x0 + x1 * 3) / 4, x1] : [x0, 0, x1]
  return (
    <svg {...drawnAt(width, height)} role="group" aria-label={`${chart.title}: ${chart.series.map((s) => s.name).join(', ')}`}>
      <text x={EDGE.left} y={14} className="chartname">
        {chart.title}
      </text>
      {chart.bands.map((b) =>
        [-360, 0, 360].map((turn) => {
          const [from, to] = [Math.max(b.low + turn, x0), Math.min(b.high + turn, x1)]
          return to >= from && <rect key={`${b.low} ${turn}`} x={x(from)} width={Math.max(x(to) - x(from), 2)} y={EDGE.top} height={foot - EDGE.top} className="chartband" />
        }),
      )}
      <line x1={EDGE.left} x2={end} y1={foot} y2={foot} className="chartaxis" />
      <line x1={EDGE.left} x2={end} y1={y(0, left)} y2={y(0, left)} className="chartzero" />
      <line x1={x(0)} x2={x(0)} y1={EDGE.top} y2={foot} className="chartzero" />
      {left.ticks.map((v) => (
        <text key={v} x={EDGE.left - 6} y={y(v, left) + 4} textAnchor="end" className="mono charttick">
          {tick(v)}
          {left.kind === 'angle' && '°'}
        </text>
      ))}
      {right.kind !== undefined &&
        right.ticks.map((v) => (
          <text key={v} x={end + 6} y={y(v, right) + 4} className="mono charttick">
            {tick(v)}
          </text>
        ))}
      {marks.map((v) => (
        <text key={v} x={x(v)} y={foot + 16} textAnchor="middle" className="mono charttick">
          {chart.x_kind === 'angle' ? tick(v) : figure(v, chart.x_kind, system, 1)}
        </text>
      ))}
      <text x={width / 2} y={height - 5} textAnchor="middle" className="charttick">
        {chart.x_name}, {unitOf(chart.x_kind, system)}
        {left.kind !== 'angle' && `; left scale: ${left.unit}`}
        {right.kind !== undefined && `; right scale: change of length, ${right.unit}`}
      </text>
      {limit != null && (
        <g className="chartlimit">
          <line x1={EDGE.left} x2={end} y1={y(limit, left)} y2={y(limit, left)} />
          <text x={end - 4} y={y(limit, left) + 15} textAnchor="end">
            at most {limit.toFixed(1)}°
          </text>
        </g>
      )}
      {lines.map(({ name, values, axis }, i) => (
        <g key={name} className={`chartline line${i}`}>
          <path d={drawn(values, axis)} />
          <path d={`M${nameAt(i)},10h28`} />
          <text x={nameAt(i) + SAMPLE} y={14}>
            {name}
          </text>
        </g>
      ))}
      {stands && <Standing chart={chart} x={x} back={back} top={EDGE.top} bottom={foot} />}
    </svg>
  )
}
