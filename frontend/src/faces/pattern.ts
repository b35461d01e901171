import type { Act, Face, PatternFound } from '../api/types'
import type { FaceOf } from './holes'

/** What becomes of a circle: left out, the crank axis, a hole by its number, a hole that is not there yet. */
export type Meant = '' | 'axis' | 'new' | `${number}`

const INCH_MM = 25.4
const shown = (mm: number, unit: Face['unit']): string => (mm / (unit === 'in' ? INCH_MM : 1)).toFixed(unit === 'in' ? 4 : 3)

export interface Taken {
  /** What the set is called: the file's name. */
  readonly name: string
  readonly seen: Face['taken_from']
  readonly picture: boolean
}

/** What takes circles into a pattern: a set of points with its own shift and turn, and the holes that are not there yet. */
export function takeIn({ face, list, of }: FaceOf, found: PatternFound, meant: readonly Meant[], { name, seen, picture }: Taken): Act[] {
  const [unit, own] = [face.unit, found.unit === 'px']
  const circles = found.circles.map((c, i) => ({ ...c.circle, meant: meant[i] ?? '' })).filter((c) => c.meant !== '')
  const next = Math.max(0, ...face.holes.map((h) => h.n)) + 1
  const fresh = circles.filter((c) => c.meant === 'new')
  const number = (c: (typeof circles)[number]) => (c.meant === 'axis' ? null : c.meant === 'new' ? next + fresh.indexOf(c) : Number(c.meant))
  const set = Math.max(0, ...face.sets.map((s) => s.n)) + 1
  const evidence = (pm: number) => ({ source: picture ? 'measured' : 'drawing', tool: picture ? 'photo' : null, pm: `${pm.toFixed(3)} ${own ? unit : 'mm'}` })
  // Of a picture without a scale pixels stand for the unit: the set's own scale makes nothing of it.
  const figure = (v: number) => (own ? v.toFixed(2) : shown(v, unit))
  return [
    ...(fresh.length > 0 ? [{ do: 'rows', list: `${list}.holes`, of, rows: fresh.map((c) => ({ bore: own ? null : shown(c.d, unit) })) }] : []),
    { do: 'add', list: `${list}.sets`, of, row: { name: name.slice(0, 200), taken_from: seen, scale: own ? 'its own' : 'true' } },
    { do: 'rows', list: `${list}.points`, of, rows: circles.map((c) => ({ of: set, hole: number(c), x: figure(c.x), y: figure(c.y), evidence: evidence(c.pm) })) },
  ] as unknown as Act[]
}

/** Circles clockwise from the top about their middle: how holes are numbered. */
export function clockwise(found: PatternFound): number[] {
  const all = found.circles.map((c, i) => ({ i, x: c.circle.x, y: c.circle.y }))
  const mean = (pick: (c: (typeof all)[number]) => number) => all.reduce((sum, c) => sum + pick(c), 0) / Math.max(all.length, 1)
  const [mx, my] = [mean((c) => c.x), mean((c) => c.y)]
  const turn = (c: (typeof all)[number]) => (Math.atan2(c.x - mx, c.y - my) + 2 * Math.PI) % (2 * Math.PI)
  return all.sort((a, b) => turn(a) - turn(b)).map((c) => c.i)
}
