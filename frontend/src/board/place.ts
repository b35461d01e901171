import type { Drawing } from '../api/types'

export type Point = readonly [number, number]

/** From millimetres of a drawing to pixels of a board; y is turned round once, here. */
export interface Place {
  readonly scale: number
  readonly x: (mm: number) => number
  readonly y: (mm: number) => number
}

/** Fits a drawing into a board, to scale, with `edge` pixels kept free all round. */
export function fit(d: Drawing, width: number, height: number, edge: number): Place {
  const scale = Math.max(Math.min((width - 2 * edge) / (d.x_high - d.x_low), (height - 2 * edge) / (d.y_high - d.y_low)), 0.001)
  const left = (width - scale * (d.x_high - d.x_low)) / 2
  const top = (height - scale * (d.y_high - d.y_low)) / 2
  return { scale, x: (mm) => left + (mm - d.x_low) * scale, y: (mm) => top + (d.y_high - mm) * scale }
}

/** SVG path of a polygon or line. */
export function path(points: readonly (readonly number[])[], place: Place, closed: boolean): string {
  return points.map(([x = 0, y = 0], i) => `${i === 0 ? 'M' : 'L'}${place.x(x).toFixed(2)},${place.y(y).toFixed(2)}`).join('') + (closed ? 'Z' : '')
}

export interface Bubble {
  readonly letter: string
  readonly address: string
  readonly at: Point
  readonly bubble: Point
}

/** Spreads places along a line so that neighbours keep `apart`, moving each as little as an even push allows. */
export function spread(wanted: readonly number[], apart: number, low: number, high: number): number[] {
  const placed = [...wanted]
  for (let i = 0; i < placed.length; i += 1) placed[i] = Math.max(placed[i] ?? low, i === 0 ? low : (placed[i - 1] ?? low) + apart)
  for (let i = placed.length - 1; i >= 0; i -= 1) placed[i] = Math.min(placed[i] ?? high, i === placed.length - 1 ? high : (placed[i + 1] ?? high) - apart)
  return placed
}

/** Letters in two columns beside the picture, each ordered by its anchors so that few leaders cross. */
export function columnsOfBubbles(marks: readonly { letter: string; address: string; at: Point }[], left: number, right: number, height: number, apart: number): Bubble[] {
  const byPlace = [...marks].sort((a, b) => a.at[0] - b.at[0])
  const edge = 14
  const most = Math.max(1, Math.floor((height - 2 * edge) / apart) + 1)
  // Halves, unless one column would overflow.
  const half = Math.min(Math.max(Math.ceil(byPlace.length / 2), byPlace.length - most), most)
  const column = (part: typeof byPlace, x: number) => {
    const ordered = [...part].sort((a, b) => a.at[1] - b.at[1])
    // More than fit are set closer rather than cut off.
    const room = (height - 2 * edge) / Math.max(1, ordered.length - 1)
    const ys = spread(ordered.map((m) => m.at[1]), Math.min(apart, room), edge, height - edge)
    return ordered.map((m, i): Bubble => ({ letter: m.letter, address: m.address, at: m.at, bubble: [x, ys[i] ?? edge] }))
  }
  return [...column(byPlace.slice(0, half), left), ...column(byPlace.slice(half), right)]
}
