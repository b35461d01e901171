import { useMemo } from 'react'
import type { Catalogue, QuestionRow, Station } from '../api/types'
import { ChoiceField } from '../entry/ChoiceField'
import { putAt } from '../entry/acts'
import { WordsField } from '../entry/WordsField'
import { useBuild } from '../shell/buildContext'
import { LedgerLine } from './LedgerLine'

const NONE: ReadonlySet<string> = new Set()

interface Props {
  /** The question whose sizes are shown, */
  question?: QuestionRow
  /** or the station whose. */
  station?: Station
  title?: string
  without?: ReadonlySet<string>
}

/** The dimensions of a question or a station that are asked for, one line each; nothing has to be entered in order. */
export function Ledger({ question, station = question?.station, title = 'Ledger', without = NONE }: Props) {
  const { catalogue, assessment, dimension } = useBuild()
  const asked = useMemo(() => new Set(assessment.asked), [assessment.asked])
  if (station === undefined) return null
  const all = question ? question.ledger : (catalogue.ledgers[station] ?? [])
  const lines = all.filter((l) => asked.has(l.key) && !without.has(l.key))
  const options = catalogue.options.filter((o) => asked.has(o.key) && (question ? question.options.includes(o.key) : o.station === station))
  if (lines.length + options.length === 0) return null
  const open = lines.filter((l) => assessment.quantities[l.key]?.value == null).length
  return (
    <section className="ledger" aria-label={`${title}, ${question?.name ?? station}`}>
      <div className="panelhead">
        <h2>{title}</h2>
        {lines.length > 0 && <span className="soft">{open === 0 ? 'all taken' : `${open} of ${lines.length} still to take · Enter goes to the next`}</span>}
      </div>
      {options.length > 0 && <Options options={options} />}
      <ul className="plain">
        {lines.map((line) => {
          const d = dimension(line.key)
          return d ? <LedgerLine key={line.key} letter={line.letter} row={d} /> : null
        })}
      </ul>
    </section>
  )
}

function Options({ options }: { options: Catalogue['options'] }) {
  const { state } = useBuild()
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
