import type { Catalogue, Station } from '../api/types'
import { ChoiceField } from '../entry/ChoiceField'
import { putAt } from '../entry/acts'
import { WordsField } from '../entry/WordsField'
import { useBuild } from '../shell/buildContext'
import { LedgerLine } from './LedgerLine'

/** Whether a dimension or a choice is asked for under the choices of the build. */
const asked = (row: { when_option: string; when_values: string[] }, options: Readonly<Record<string, string>>, defaults: ReadonlyMap<string, string>) =>
  row.when_option === '' || row.when_values.includes(options[row.when_option] || (defaults.get(row.when_option) ?? ''))
const defaultsOf = (catalogue: Catalogue) => new Map(catalogue.options.map((o) => [o.key, o.default]))

const NONE: ReadonlySet<string> = new Set()

/** The dimensions of a station, one line each, by part; nothing has to be entered in order. */
export function Ledger({ station, title = 'Ledger', without = NONE }: { station: Station; title?: string; without?: ReadonlySet<string> }) {
  const { catalogue, assessment, dimension, state } = useBuild()
  const options = state.document.options
  const defaults = defaultsOf(catalogue)
  const lines = (catalogue.ledgers[station] ?? []).filter((l) => {
    const d = dimension(l.key)
    return d !== undefined && !without.has(l.key) && asked(d, options, defaults)
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
  const { catalogue, state } = useBuild()
  const options = catalogue.options.filter((o) => o.station === station && asked(o, state.document.options, defaultsOf(catalogue)))
  if (options.length === 0) return null
  return (
    <div className="options">
      {options.map((o) => {
        const one = { id: `options-${o.key}`, words: o.name, labelled: true, shown: state.document.options[o.key] ?? '', acts: (value: string) => [putAt(`/options/${o.key}`, value)] }
        return (
          <label key={o.key} className="field">
            {o.name}
            {o.choices.length > 0 ? <ChoiceField {...one} choices={[['', o.default === '' ? 'not said' : `not said: ${o.default}`], ...o.choices]} /> : <WordsField {...one} maxLength={120} />}
          </label>
        )
      })}
    </div>
  )
}
