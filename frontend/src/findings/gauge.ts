import type { Finding } from '../api/types'

/** Places on a gap gauge, in 0 to 1 of its width. */
export interface Gauge {
  readonly low: number | null
  readonly high: number | null
  readonly value: number
  readonly from: number
  readonly to: number
}

/** Lays a finding out on its gauge: limits, value and whisker inside, with room at both ends. */
export function gaugeOf(f: Finding): Gauge | null {
  if (f.value == null || f.u == null || (f.low == null && f.high == null)) return null
  const marks = [f.low, f.high, f.value - f.u, f.value + f.u].filter((x): x is number => x != null)
  const low = Math.min(...marks)
  const span = Math.max(Math.max(...marks) - low, 1e-6)
  // A value far from its limit would push the limit to the rim: the gauge always shows both.
  const place = (x: number | null | undefined) => (x == null ? null : 0.14 + (0.72 * (x - low)) / span)
  return { low: place(f.low), high: place(f.high), value: place(f.value) ?? 0, from: place(f.value - f.u) ?? 0, to: place(f.value + f.u) ?? 0 }
}
