import type { Station } from '../api/types'
import { useBuild } from '../shell/buildContext'
import { triedAt } from '../shell/patches'
import { LedgerLine } from './LedgerLine'

/** Whether a dimension or a choice is asked for under the choices of the build. */
const asked = (row: { when_option: string; when_values: string[] }, options: Readonly<Record<string, string>>) => row.when_option === '' || row.when_values.includes(options[row.when_option] ?? '')

/** The dimensions of a station, one line each, by part; nothing has to be entered in order. */
export function Ledger({ station, title = 'Ledger' }: { station: Station; title?: string }) {
  const { catalogue, assessment, dimension, state } = useBuild()
  const options = state.document.options
  const lines = (catalogue.ledgers[station] ?? []).filter((l) => {
    const d = dimension(l.key)
    return d !== undefined && asked(d, options)
  })
  const open = lines.filter((l) => assessment.quantities[l.key]?.value == null).length
  return (
    <section className="ledger" aria-label={`${title}, ${station}`}>
      <div className="panelhead">
        <h2>{title}</h2>
        <span className="soft">
          {open === 0 ? 'all taken' : `${open} of ${lines.length} still to take · Enter goes to the next`}
        </span>
      </div>
      <Options station={station} />
      <ul className="plain">
        {lines.map((line) => {
          const d = dimension(line.key)
          return d ? <LedgerLine key={line.key} letter={line.letter} row={d} /> : null
        })}
      </ul>
    </section>
  )
}

function Options({ station }: { station: Station }) {
  const { catalogue, state, enter, trial } = useBuild()
  const options = catalogue.options.filter((o) => o.station === station && asked(o, state.document.options))
  if (options.length === 0) return null
  const set = (key: string, value: string, name: string) => void enter([{ op: 'add', path: `/options/${key}`, value }], name)
  return (
    <div className="options">
      {options.map((o) => {
        const tried = triedAt(trial?.ops, `/options/${o.key}`)
        const value = typeof tried === 'string' ? tried : (state.document.options[o.key] ?? '')
        return (
          <label key={o.key} className="field">
            {o.name}
            {o.choices.length > 0 ? (
              <select value={value} onChange={(e) => set(o.key, e.target.value, o.name)}>
                <option value="">not said</option>
                {o.choices.map((c) => (
                  <option key={c}>{c}</option>
                ))}
              </select>
            ) : (
              <input key={value} defaultValue={value} maxLength={120} onBlur={(e) => e.target.value !== value && set(o.key, e.target.value, o.name)} onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()} />
            )}
          </label>
        )
      })}
    </div>
  )
}
