import { useId } from 'react'
import type { Finding, System } from '../api/types'
import { figure } from '../api/units'
import { gaugeOf } from './gauge'
import './findings.css'

const WIDTH = 300

/** Limit line, value, whisker for its doubt; the wrong side is hatched. */
export function GapGauge({ finding, system }: { finding: Finding; system: System }) {
  const id = useId()
  const g = gaugeOf(finding)
  if (g === null) return null
  const x = (place: number) => place * WIDTH
  const short = (value: number) => {
    // A limit that is a rule stands as in the table; one that was worked out is no finer than the value beside it.
    const text = figure(value, finding.kind, system, finding.limit_worked_out ? (finding.u ?? 0) : 0)
    return text.includes('.') ? text.replace(/\.?0+$/, '') : text
  }
  const line = (place: number | null) => (place === null ? null : <line x1={x(place)} x2={x(place)} y1="0" y2="15" stroke="var(--ink)" strokeWidth="2" />)
  const label = (place: number, words: string) => (
    <text x={x(place)} y="26" textAnchor={place < 0.22 ? 'start' : place > 0.78 ? 'end' : 'middle'} className="gaugetext mono">
      {words}
    </text>
  )
  const labels = () => {
    const { low, high } = finding
    if (g.low !== null && low != null && g.high !== null && high != null) {
      if (low === high) return label(g.low, `exactly ${short(low)}`)
      // Two labels nearer than this would cover each other.
      if (x(g.high - g.low) < 130) return label((g.low + g.high) / 2, low === -high ? `± ${short(high)}` : `${short(low)} to ${short(high)}`)
    }
    return (
      <>
        {g.low !== null && low != null && label(g.low, `needs ${short(low)}`)}
        {g.high !== null && high != null && label(g.high, `at most ${short(high)}`)}
      </>
    )
  }
  return (
    <svg className={`gauge ${finding.verdict}`} viewBox={`0 0 ${WIDTH} 30`} width={`${WIDTH / 16}rem`} height="1.875rem" aria-hidden="true">
      <defs>
        <pattern id={id} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="6" stroke="var(--fouls)" strokeWidth="1.2" opacity="0.55" />
        </pattern>
      </defs>
      <rect x={x(g.low ?? 0)} y="3" width={x((g.high ?? 1) - (g.low ?? 0))} height="9" fill="var(--goes-wash)" />
      {g.low !== null && <rect x="0" y="3" width={x(g.low)} height="9" fill={`url(#${id})`} />}
      {g.high !== null && <rect x={x(g.high)} y="3" width={WIDTH - x(g.high)} height="9" fill={`url(#${id})`} />}
      <g stroke="currentColor" strokeWidth="1.6">
        <line x1={x(g.from)} x2={x(g.to)} y1="7.5" y2="7.5" />
        <line x1={x(g.from)} x2={x(g.from)} y1="3" y2="12" />
        <line x1={x(g.to)} x2={x(g.to)} y1="3" y2="12" />
      </g>
      <circle cx={x(g.value)} cy="7.5" r="4" fill="currentColor" />
      {line(g.low)}
      {line(g.high)}
      {labels()}
    </svg>
  )
}
