import type { BoardReading } from '../api/types'
import { figure, unitOf, written } from '../api/units'
import { useBuild } from '../shell/buildContext'
import './question.css'

/** Figures to read off; what is ordered is told with its ±. */
export function ReadingsView({ readings }: { readings: readonly BoardReading[] }) {
  const { system } = useBuild()
  if (readings.length === 0) return null
  const shown = (r: BoardReading) => {
    if (r.pm != null) return `${figure(r.value, r.kind, system, r.pm)} ± ${figure(r.pm, r.kind, system, r.pm)} ${unitOf(r.kind, system)}`
    return r.kind === 'money' ? r.value.toFixed(2) : written(r.value, r.kind, system)
  }
  return (
    <section aria-label="Figures" className="orders">
      <ul className="plain readings">
        {readings.map((r) => (
          <li key={r.name}>
            {r.name} <b className="mono">{shown(r)}</b>
            {r.ordered && <span className="soft"> ordered or cut to it</span>}
          </li>
        ))}
      </ul>
    </section>
  )
}
