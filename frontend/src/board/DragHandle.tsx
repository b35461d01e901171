import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Handle } from '../api/types'
import { figure, unitOf } from '../api/units'
import { useBuild, useTrial } from '../shell/buildContext'
import { EM } from './em'
import type { Place } from './place'
import './board.css'

interface Start {
  /** Where the picture stands on the screen: it does not move while something is dragged. */
  readonly box: DOMRect
  readonly x: number
  readonly y: number
  readonly value: number
  readonly valueY: number
  /** Where the grip was drawn. */
  readonly grip: readonly [number, number]
}

const snap = (value: number, handle: Handle): number => {
  const snapped = Math.round(value / handle.step) * handle.step
  return Math.min(Math.max(Math.round(snapped * 1e4) / 1e4, handle.low), handle.high)
}

/** Values that a drag gives: along x and y for places, round the crank axis for the clocking. */
export function dragged(handle: Handle, start: Omit<Start, 'box'>, x: number, y: number, place: Place): Readonly<Record<string, number>> {
  if (handle.turns) {
    const angle = (px: number, py: number) => (Math.atan2(px - place.x(0), place.y(0) - py) * 180) / Math.PI
    const turn = angle(x, y) - angle(start.x, start.y)
    return { [handle.address]: snap(start.value + (((turn + 540) % 360) - 180), handle) }
  }
  const along = { [handle.address]: snap(start.value + (handle.sense * (x - start.x)) / place.scale, handle) }
  if (handle.address_y === '') return along
  return { ...along, [handle.address_y]: snap(start.valueY + (handle.sense_y * (start.y - y)) / place.scale, handle) }
}

const SHAPES = {
  turns: (x: number, y: number) => `M${x - 9},${y}a9,9 0 1,1 18,0a9,9 0 1,1 -18,0`,
  slides: (x: number, y: number) => `M${x - 4},${y - 10}h8v20h-8zM${x - 7},${y - 4}l-6,4l6,4zM${x + 7},${y - 4}l6,4l-6,4z`,
  moves: (x: number, y: number) => `M${x - 7},${y - 7}h14v14h-14zM${x - 10},${y - 4}l-6,4l6,4zM${x + 10},${y - 4}l6,4l-6,4zM${x - 4},${y - 10}l4,-6l4,6zM${x - 4},${y + 10}l4,6l4,-6z`,
} as const

/** Where a grip is drawn while it is dragged: under the pointer, along the way that it can go. */
export function gripAt(handle: Handle, grip: readonly [number, number], by: readonly [number, number], place: Place): readonly [number, number] {
  if (handle.turns) {
    const [cx, cy] = [place.x(0), place.y(0)]
    const turn = Math.atan2(grip[1] + by[1] - cy, grip[0] + by[0] - cx)
    const far = Math.hypot(grip[0] - cx, grip[1] - cy)
    return [cx + far * Math.cos(turn), cy + far * Math.sin(turn)]
  }
  return [grip[0] + by[0], grip[1] + (handle.address_y === '' ? 0 : by[1])]
}

interface Props {
  handle: Handle
  place: Place
  /** The board keeps its scale while this is on. */
  hold: (on: boolean) => void
}

/** Where a pointer is in the picture. */
const pointerIn = (event: PointerEvent, box: DOMRect) => [(event.clientX - box.left) / EM, (event.clientY - box.top) / EM] as const

/** A grip on the board: drag it, or focus it and use the arrow keys. It only ever makes a trial. */
export function DragHandle({ handle, place, hold }: Props) {
  const { tryValues, system, dimension } = useBuild()
  const trial = useTrial()
  const start = useRef<Start | null>(null)
  const both = handle.address_y !== ''
  const value = trial?.values[handle.address] ?? handle.value
  const valueY = trial?.values[handle.address_y] ?? handle.value_y
  const kind = dimension(handle.address)?.kind ?? 'length'
  const [at, setAt] = useState<readonly [number, number] | null>(null)
  const [x, y] = at ?? [place.x(handle.x), place.y(handle.y)]
  const shown = (v: number) => `${figure(v, kind, system)} ${unitOf(kind, system)}`
  const onDown = (event: PointerEvent<SVGGElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId)
    event.currentTarget.focus()
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect()
    if (box === undefined) return
    const [px, py] = pointerIn(event, box)
    start.current = { box, x: px, y: py, value, valueY, grip: [x, y] }
    hold(true)
  }
  const onMove = (event: PointerEvent<SVGGElement>) => {
    if (start.current === null) return
    const [px, py] = pointerIn(event, start.current.box)
    const by = [px - start.current.x, py - start.current.y] as const
    setAt(gripAt(handle, start.current.grip, by, place))
    const next = dragged(handle, start.current, px, py, place)
    if (next[handle.address] !== value || (both && next[handle.address_y] !== valueY)) tryValues(next)
  }
  const onEnd = () => {
    start.current = null
    setAt(null)
    hold(false)
  }
  const onKey = (event: KeyboardEvent<SVGGElement>) => {
    const across = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
    const up = { ArrowUp: 1, ArrowDown: -1 }[event.key]
    if (across === undefined && up === undefined) return
    event.preventDefault()
    const by = handle.step * (event.shiftKey ? 10 : 1)
    if (both && up !== undefined) tryValues({ [handle.address_y]: snap(valueY + by * up * handle.sense_y, handle) })
    else tryValues({ [handle.address]: snap(value + by * (across ?? up ?? 0) * (both ? handle.sense : 1), handle) })
  }
  return (
    <g
      className={`handle ${trial?.values[handle.address] === undefined && trial?.values[handle.address_y] === undefined ? '' : 'trying'} ${both ? 'both' : ''}`}
      role="slider"
      tabIndex={0}
      aria-label={`${handle.name}, drag to try`}
      aria-valuenow={value}
      aria-valuemin={handle.low}
      aria-valuemax={handle.high}
      aria-valuetext={both ? `${shown(value)}, ${shown(valueY)}` : shown(value)}
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={onEnd}
      onPointerCancel={onEnd}
      onKeyDown={onKey}
    >
      <title>{handle.name}: drag to try, or use the arrow keys</title>
      <circle cx={x} cy={y} r="22" className="reach" />
      <path d={SHAPES[handle.turns ? 'turns' : both ? 'moves' : 'slides'](x, y)} className="grip" />
      {!both && (
        <text x={x + 18} y={y + 5} className="mono">
          {shown(value)}
        </text>
      )}
    </g>
  )
}
