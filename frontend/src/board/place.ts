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

const MARGIN = 0.14
/** How much larger a part has to come out to be worth going nearer to. */
const WORTH = 1.35
/** And it is never less of the whole than this, to either side. */
const LEAST = 0.3

/** The part of a drawing that its letters and gaps speak of; null where it would hardly be larger on a board of that size, or there is none. */
export function nearerPart(d: Drawing, width: number, height: number): Drawing | null {
  const ends = [...d.callouts.flatMap((c) => [[c.x, c.y], ...(c.stretch ? [c.stretch.slice(0, 2), c.stretch.slice(2)] : [])]), ...d.gaps.flatMap((g) => [[g.x1, g.y1], [g.x2, g.y2]])]
  if (ends.length === 0) return null
  const span = (at: 0 | 1, low: number, high: number): [number, number] => {
    const all = ends.map((e) => e[at] ?? 0)
    const [first, last] = [Math.min(...all), Math.max(...all)]
    const half = Math.max((last - first) * (0.5 + MARGIN), ((high - low) * LEAST) / 2)
    return [Math.max((first + last) / 2 - half, low), Math.min((first + last) / 2 + half, high)]
  }
  const [x_low, x_high] = span(0, d.x_low, d.x_high)
  const [y_low, y_high] = span(1, d.y_low, d.y_high)
  const part = { ...d, x_low, x_high, y_low, y_high }
  return fit(part, width, height, 0).scale > WORTH * fit(d, width, height, 0).scale ? part : null
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

const side = (a: Point, b: Point, c: Point) => Math.sign((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]))

/** Whether two straight leaders cross. */
export function crosses(a: Bubble, b: Bubble): boolean {
  return side(a.bubble, a.at, b.bubble) * side(a.bubble, a.at, b.at) < 0 && side(b.bubble, b.at, a.bubble) * side(b.bubble, b.at, a.at) < 0
}

const ROUNDS = 60

/** Letters exchange their places until no two leaders cross: each exchange makes the two together shorter, so it comes to an end. */
export function uncrossed(bubbles: readonly Bubble[]): Bubble[] {
  const found = [...bubbles]
  for (let round = 0, again = true; again && round < ROUNDS; round += 1) {
    again = false
    for (let i = 0; i < found.length; i += 1)
      for (let j = i + 1; j < found.length; j += 1) {
        const [a, b] = [found[i], found[j]]
        if (a === undefined || b === undefined || !crosses(a, b)) continue
        found[i] = { ...a, bubble: b.bubble }
        found[j] = { ...b, bubble: a.bubble }
        again = true
      }
  }
  return found
}

const REACH = [24, 34, 46, 62, 84, 110, 150]
const ROUND = Array.from({ length: 16 }, (_, n) => (n * Math.PI) / 8)
const BUBBLE = 25
const ANCHOR = 8
/** What a leader that crosses another counts for, in pixels of its own length; and a letter that covers something, by the square pixel. */
const CROSSING = 400
const COVERED = 4

/** Letters near what they speak of: each where it covers the least and its leader crosses none, the nearest place first. */
export function lettersNear(marks: readonly { letter: string; address: string; at: Point }[], taken: readonly Box[], width: number, height: number): Bubble[] {
  const anchors = marks.map((m): Box => ({ x: m.at[0], y: m.at[1], w: ANCHOR, h: ANCHOR }))
  const placed: Bubble[] = []
  for (const mark of [...marks].sort((a, b) => a.at[1] - b.at[1])) {
    const w = mark.letter.length > 1 ? BUBBLE + 11 : BUBBLE
    const full = [...taken, ...anchors, ...placed.map((b): Box => ({ x: b.bubble[0], y: b.bubble[1], w: BUBBLE, h: BUBBLE }))]
    let best: Bubble = { ...mark, bubble: [mark.at[0], mark.at[1]] }
    let least = Infinity
    for (const far of REACH)
      for (const turn of ROUND) {
        const [x, y] = [mark.at[0] + far * Math.cos(turn), mark.at[1] - far * Math.sin(turn)]
        if (x < w / 2 || y < BUBBLE / 2 || x > width - w / 2 || y > height - BUBBLE / 2) continue
        const tried: Bubble = { ...mark, bubble: [x, y] }
        const box = { x, y, w, h: BUBBLE }
        const cost = far + COVERED * full.reduce((sum, other) => sum + covers(box, other), 0) + CROSSING * placed.filter((b) => crosses(b, tried)).length
        if (cost < least) [best, least] = [tried, cost]
      }
    placed.push(best)
  }
  return uncrossed(placed)
}

/** A box on the board, by its middle. */
export interface Box {
  readonly x: number
  readonly y: number
  readonly w: number
  readonly h: number
}

export interface Label {
  readonly text: string
  /** What it speaks of: a point with a radius; and which way it would rather stand. */
  readonly at: Point
  readonly r: number
  readonly towards: Point
}

const covers = (a: Box, b: Box) => Math.max(0, (a.w + b.w) / 2 - Math.abs(a.x - b.x)) * Math.max(0, (a.h + b.h) / 2 - Math.abs(a.y - b.y))
const LETTER_W = 8.6
const LABEL_H = 15
const TURNS = [0, 1, -1, 2, -2, 3, -3, 4].map((n) => (n * Math.PI) / 4)
const AWAY = [9, 18, 30]

/** A place for each label beside what it speaks of, where it covers neither another nor what is taken; the least covered one where there is none. */
export function placeLabels(labels: readonly Label[], taken: readonly Box[], width: number, height: number): Box[] {
  const full = [...taken]
  return labels.map((label) => {
    const w = label.text.length * LETTER_W
    const first = Math.atan2(label.towards[1], label.towards[0])
    let best: Box = { x: label.at[0], y: label.at[1], w, h: LABEL_H }
    let least = Infinity
    for (const away of AWAY)
      for (const turn of TURNS) {
        const far = label.r + away
        // A wide label stands further out sideways than up and down.
        const box = { x: label.at[0] + (far + w / 2 - LABEL_H / 2) * Math.cos(first + turn), y: label.at[1] + far * Math.sin(first + turn), w, h: LABEL_H }
        const outside = box.x < w / 2 || box.x > width - w / 2 || box.y < LABEL_H / 2 || box.y > height - LABEL_H / 2
        const cost = outside ? Infinity : full.reduce((sum, other) => sum + covers(box, other), 0)
        if (cost < least) [best, least] = [box, cost]
        if (least === 0) break
      }
    full.push(best)
    return best
  })
}
