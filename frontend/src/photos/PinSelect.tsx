import { useBuild } from '../shell/buildContext'
import { pinsOf } from './pins'

/** What a photo or note shows: a size, a hole, a row of a list, or the log alone. */
export function PinSelect({ pin, choose }: { pin: string; choose: (pin: string) => void }) {
  const { state, catalogue, assessment } = useBuild()
  return (
    <label className="field">
      Pinned to
      <select value={pin} onChange={(e) => choose(e.target.value)}>
        <option value="">the log alone</option>
        {pinsOf(catalogue, state.document, assessment.asked).map(([group, pins]) => (
          <optgroup key={group} label={group}>
            {pins.map((p) => (
              <option key={p.address} value={p.address}>
                {p.name}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
    </label>
  )
}
