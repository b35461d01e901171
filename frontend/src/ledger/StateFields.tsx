import { useBuild } from '../shell/buildContext'

export type ReadingState = Readonly<Record<string, unknown>>

interface Props {
  state: ReadingState
  /** What the fields belong to, for the labels. */
  of: string
  /** Only these; all of them when left out. */
  only?: readonly string[]
  put: (field: string, value: string | null) => Promise<string | null>
}

/** The state that a reading was taken in. What is not said refuses no check. */
export function StateFields({ state, of, only, put }: Props) {
  const { catalogue } = useBuild()
  const fields = catalogue.state_fields.filter((f) => only?.includes(f.field) ?? true)
  return (
    <>
      {fields.map((f) => {
        const value = typeof state[f.field] === 'string' ? (state[f.field] as string) : ''
        const label = `${f.name}, ${of}`
        return (
          <label key={f.field} className="field">
            {f.name}
            {f.choices.length > 0 ? (
              <select aria-label={label} value={value} onChange={(e) => void put(f.field, e.target.value || null)}>
                <option value="">not said</option>
                {f.choices.map((c) => (
                  <option key={c}>{c}</option>
                ))}
              </select>
            ) : (
              <input key={value} aria-label={label} defaultValue={value} maxLength={200} onBlur={(e) => e.target.value !== value && void put(f.field, e.target.value || null)} onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()} />
            )}
          </label>
        )
      })}
    </>
  )
}
