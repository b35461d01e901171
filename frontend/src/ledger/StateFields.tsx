import type { Act } from '../api/types'
import { ChoiceField } from '../entry/ChoiceField'
import { WordsField } from '../entry/WordsField'
import { useBuild } from '../shell/buildContext'
import './ledger.css'

export type ReadingState = Readonly<Record<string, unknown>>

interface Props {
  /** Of the fields, before the name of each. */
  id: string
  state: ReadingState
  /** What the fields belong to, for the labels. */
  of: string
  /** Only these; all of them when left out. */
  only?: readonly string[]
  acts: (field: string, value: string | null) => Act[]
}

/** The state that a reading was taken in. What is not said refuses no check. */
export function StateFields({ id, state, of, only, acts }: Props) {
  const { catalogue } = useBuild()
  const fields = catalogue.state_fields.filter((f) => only?.includes(f.field) ?? true)
  return (
    <>
      {fields.map((f) => {
        const value = typeof state[f.field] === 'string' ? (state[f.field] as string) : ''
        const one = { id: `${id}-${f.field}`, words: `${f.name}, ${of}`, shown: value, acts: (text: string) => acts(f.field, text || null) }
        return (
          <label key={f.field} className="field">
            {f.name}
            {f.choices.length > 0 ? <ChoiceField {...one} choices={['', ...f.choices]} /> : <WordsField {...one} maxLength={200} />}
          </label>
        )
      })}
    </>
  )
}
