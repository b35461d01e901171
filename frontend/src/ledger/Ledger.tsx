import { useMemo, type ClipboardEvent } from 'react'
import type { Catalogue, QuestionRow } from '../api/types'
import { ChoiceField } from '../entry/ChoiceField'
import { putAt } from '../entry/acts'
import { WordsField } from '../entry/WordsField'
import { Hint } from '../hints/Hint'
import { useBuild } from '../shell/buildContext'
import { bring } from '../tray/brought'
import { startRun } from '../shell/looked'
import { LedgerLine } from './LedgerLine'
import './ledger.css'

const NONE: ReadonlySet<string> = new Set()

interface Props {
  question: QuestionRow
  title?: string
  without?: ReadonlySet<string>
}

/** Choices beyond which they stand below the sizes, so that the sizes are in sight. */
const MANY = 3

/** The dimensions of a question that are asked for, one line each; nothing has to be entered in order. */
export function Ledger({ question, title = 'Ledger', without = NONE }: Props) {
  const { catalogue, assessment, dimension } = useBuild()
  const asked = useMemo(() => new Set(assessment.asked), [assessment.asked])
  const lines = question.ledger.filter((l) => asked.has(l.key) && !without.has(l.key))
  const options = catalogue.options.filter((o) => asked.has(o.key) && question.options.includes(o.key))
  if (lines.length + options.length === 0) return null
  const onPaste = (event: ClipboardEvent<HTMLElement>) => {
    const text = event.clipboardData.getData('text/plain')
    const start = lines.find((l) => event.target instanceof HTMLElement && event.target.id === `figure-${l.key}`)
    if (!/[\n\t]/.test(text.trim())) return
    event.preventDefault()
    bring({ text, start: start?.key ?? '' })
  }
  const open = lines.filter((l) => assessment.quantities[l.key]?.value == null).length
  return (
    <section className="ledger" aria-label={`${title}, ${question.name}`}>
      <div className="panelhead">
        <h2>{title}</h2>
        {options.length > 0 && options.length <= MANY && <Options options={options} />}
        {lines.length > 0 && (
          <button type="button" className="quiet" onClick={startRun}>
            run <kbd>Alt M</kbd>
          </button>
        )}
        {lines.length > 0 && (
          <button type="button" className="quiet" onClick={() => bring({})}>
            table
          </button>
        )}
        {lines.length > 0 && <EvidenceAtAGlance keys={lines.map((l) => l.key)} />}
        {lines.length > 0 && <span className="soft">{open === 0 ? 'all taken' : `${open} of ${lines.length} to take`}</span>}
      </div>
      <ul className="plain" onPaste={onPaste}>
        {lines.map((line) => {
          const d = dimension(line.key)
          return d ? <LedgerLine key={line.key} letter={line.letter} row={d} /> : null
        })}
      </ul>
      {options.length > MANY && (
        <div className="panelhead">
          <Options options={options} />
        </div>
      )}
    </section>
  )
}

/** How the sizes here are known; a page of guesses says so. */
function EvidenceAtAGlance({ keys }: { keys: readonly string[] }) {
  const { assessment, catalogue } = useBuild()
  // The ladder runs from a reading down to a figure that nobody stands behind: claims begin at the seller's.
  const claims = new Set<string>(catalogue.sources.slice(catalogue.sources.indexOf('seller')))
  const sources = keys.flatMap((k) => (assessment.quantities[k]?.value == null ? [] : [assessment.quantities[k]?.source ?? '']))
  const claimed = sources.filter((s) => claims.has(s)).length
  if (claimed === 0) return null
  const mostly = claimed * 2 > sources.length
  return (
    <span className={mostly ? 'tight' : 'soft'}>
      {mostly ? 'mostly guessed or claimed: ' : ''}
      {claimed} of {sources.length} guessed or claimed
    </span>
  )
}

function Options({ options }: { options: Catalogue['options'] }) {
  const { state } = useBuild()
  return (
    <div className="options">
      {options.map((o) => {
        const one = { id: `options-${o.key}`, words: o.name, labelled: true, shown: state.document.options[o.key] ?? '', acts: (value: string) => [putAt(`/options/${o.key}`, value)] }
        return (
          <span key={o.key} className="optionhint">
            <label className="field">
              {o.name}
              {o.choices.length > 0 ? <ChoiceField {...one} choices={[['', o.default === '' ? 'not said' : `not said: ${o.default}`], ...o.choices]} /> : <WordsField {...one} maxLength={120} />}
            </label>
            <Hint word={o.key} name={o.name.toLowerCase()} />
          </span>
        )
      })}
    </div>
  )
}
