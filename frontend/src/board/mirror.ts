import type { Drawing } from '../api/types'

/** The same picture looked at from the other side: x turns round, numbers stay readable. Handles stay with the first view. */
export function mirrored(d: Drawing): Drawing {
  return {
    ...d,
    view: 'seen from the front, rearwards (mirrored)',
    x_low: -d.x_high,
    x_high: -d.x_low,
    shapes: d.shapes.map((s) => ({ ...s, points: s.points.map(([x, y]): [number, number] => [-x, y]) })),
    rounds: d.rounds.map((r) => ({ ...r, x: -r.x })),
    callouts: d.callouts.map((c) => ({ ...c, x: -c.x, stretch: c.stretch ? ([-c.stretch[0], c.stretch[1], -c.stretch[2], c.stretch[3]] as [number, number, number, number]) : null })),
    gaps: d.gaps.map((g) => ({ ...g, x1: -g.x1, x2: -g.x2 })),
    handles: [],
    notes: d.notes.map((n) => ({ ...n, x: -n.x })),
  }
}
