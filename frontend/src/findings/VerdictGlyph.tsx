import type { Verdict } from '../api/types'
import './findings.css'

// Two blocks: apart, a hair apart, overlapping, dashed. Colour only repeats the shape.
const SECOND: Record<Verdict, number> = { goes: 12, tight: 9.4, fouls: 5, unmeasured: 12 }

export function VerdictGlyph({ verdict, small = false }: { verdict: Verdict; small?: boolean }) {
  const k = small ? 0.75 : 1
  const dashed = verdict === 'unmeasured'
  return (
    <svg className={`glyph ${verdict}`} width={`${(22 * k) / 16}rem`} height={`${(12 * k) / 16}rem`} viewBox="0 0 22 12" role="img" aria-label={verdict}>
      <rect x="1" y="1" width="8" height="10" fill={dashed ? 'none' : 'currentColor'} stroke="currentColor" strokeDasharray={dashed ? '2 1.6' : undefined} />
      <rect x={SECOND[verdict]} y="1" width="8" height="10" fill={dashed || verdict === 'fouls' ? 'var(--sheet)' : 'currentColor'} fillOpacity={verdict === 'fouls' ? 0.55 : 1} stroke="currentColor" strokeDasharray={dashed ? '2 1.6' : undefined} />
    </svg>
  )
}
