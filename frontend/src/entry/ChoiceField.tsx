import type { Act } from '../api/types'
import { useDesk, useHeld } from './useDesk'

interface Props {
  id: string
  words: string
  labelled?: boolean
  shown: string
  choices: readonly (string | readonly [value: string, words: string])[]
  acts: (value: string) => Act[]
  /** A fact of record: stored at once, whatever is being tried. */
  record?: boolean
}

/** A choice of the build; it belongs to the trial that is under way, if there is one. */
export function ChoiceField({ id, words, labelled = false, shown, choices, acts, record = false }: Props) {
  const desk = useDesk()
  const held = useHeld(id)
  const take = (value: string) => (record ? desk.enter : desk.choose)({ field: id, words, text: value, was: shown, acts: acts(value) })
  const refused = held?.how === 'refused' ? held.wrong : ''
  return (
    <>
      <select id={id} className={held?.how ?? ''} aria-label={labelled ? undefined : words} value={held?.how === 'refused' ? shown : (held?.text ?? shown)} onChange={(e) => take(e.target.value)}>
        {choices.map((c) => {
          const [value, said] = typeof c === 'string' ? [c, c] : c
          return (
            <option key={value} value={value}>
              {said === '' ? 'not said' : said}
            </option>
          )
        })}
      </select>
      {refused && (
        <span className="fouls" role="alert">
          {refused}
        </span>
      )}
    </>
  )
}
