import { useEffect, useLayoutEffect, useRef, useState, type KeyboardEvent } from 'react'
import { api } from '../api/client'
import type { Act } from '../api/types'
import { TouchKeys } from './TouchKeys'
import { goHome, secondOfPair, TOOL_KEYS, toNextUnmeasured } from './hands'
import { useDesk, useDeskPart, useHeld } from './useDesk'
import './entry.css'

interface Props {
  id: string
  label: string
  /** What stands there now, as the screen shows it; empty for nothing. */
  shown: string
  kind: string
  unit: string
  className: string
  /** What entering a text does. */
  acts: (typed: string) => Act[]
  /** The dimension, for its own words for nought. */
  dimension?: string
  /** Empty entries are taken over as nothing, where that means something. */
  mayClear?: boolean
  /** What stands where nothing is typed: worked out from other readings. */
  given?: string
  /** Its callout is pointed at. */
  lit?: boolean
  /** Where the hands go after an entry, forward or back; to the next unmeasured line when left out. */
  leave?: (back: boolean) => void
}

const ECHO_MS = 90
const TOUCH = window.matchMedia('(pointer: coarse)')
const SILENT = { text: '', wrong: false }

/** What a text would be read as, told while it is typed. */
function useEcho(text: string | null, kind: string, unit: string, dimension: string) {
  const [said, say] = useState({ of: '', text: '', wrong: false })
  useEffect(() => {
    if (text === null || text.trim() === '') return undefined
    let mine = true
    const tell = (words: string, wrong: boolean) => mine && say({ of: text, text: words, wrong })
    const timer = window.setTimeout(() => {
      api.quantity(text, kind, unit || undefined, dimension).then(
        (e) => tell(e.word != null ? `“${e.word}” is kept; give the number that it stands for` : e.echo, false),
        (error: Error) => tell(error.message, true),
      )
    }, ECHO_MS)
    return () => {
      mine = false
      window.clearTimeout(timer)
    }
  }, [dimension, kind, text, unit])
  return said.of === text ? said : SILENT
}

/**
 * The one field for numbers: fractions, either unit, a comma, arithmetic, ±, words; echoes what it understood.
 * Enter hands the text to the desk and moves on in the same moment; what the server refuses comes back into its field.
 */
export function FigureField({ id, label, shown, kind, unit, className, acts, dimension = '', mayClear = false, given = '', lit = false, leave }: Props) {
  const desk = useDesk()
  const held = useHeld(id)
  // What is being typed lives on the desk, so that no reload takes it.
  const text = useDeskPart(desk, (s) => s.drafts[id] ?? null)
  const typed = () => desk.now().drafts[id] ?? null
  const echo = useEcho(text, kind, unit, dimension)
  const stands = held?.text ?? shown
  const setText = (next: string | null) => desk.draft(id, next)

  /** Hands the text over, where there is one; ``again`` hands over what was refused as it is, after a look at why. */
  const take = (asTrial = false, again = false) => {
    const refused = again && held?.how === 'refused' ? held.text : undefined
    const entry = typed()?.trim() ?? refused
    if (entry === undefined) return
    if ((entry === stands && refused === undefined) || (entry === '' && !mayClear)) {
      setText(null)
      return
    }
    const part = { field: id, words: label, text: entry, was: stands, acts: acts(entry) }
    if (asTrial) desk.try(part)
    else desk.enter(part)
  }

  const onKey = (event: KeyboardEvent<HTMLInputElement>) => {
    const { key } = event
    const ends = key === 'Enter' || (key === 'Tab' && !event.shiftKey && typed() !== null)
    if (ends || key === 'Tab') {
      if (secondOfPair(key, typed() !== null, event.timeStamp)) {
        event.preventDefault()
        return
      }
    }
    if (key === 'Enter' && event.shiftKey && leave === undefined) take(true)
    else if (ends) {
      event.preventDefault()
      take(false, key === 'Enter')
      if (desk.now().stopped) goHome()
      else if (leave !== undefined) leave(event.shiftKey)
      else toNextUnmeasured(event.currentTarget)
    } else if (key === 'Escape') {
      setText(null)
      desk.forget(id)
      goHome()
    } else if (TOOL_KEYS[key] !== undefined) {
      event.preventDefault()
      event.stopPropagation()
      desk.pick(desk.now().tool === TOOL_KEYS[key] ? '' : TOOL_KEYS[key])
    }
  }
  const input = useRef<HTMLInputElement>(null)
  const [touched, setTouched] = useState(false)
  /** Puts a key of the screen where the hands are. */
  const insert = (key: string) => {
    const field = input.current
    if (field === null) return
    const [from, to] = [field.selectionStart ?? field.value.length, field.selectionEnd ?? field.value.length]
    setText(field.value.slice(0, from) + key + field.value.slice(to))
    window.requestAnimationFrame(() => field.setSelectionRange(from + key.length, from + key.length))
  }
  // A figure that another screen changed under the hands is as unselected as a browser leaves it:
  // what is typed next would be written behind it.
  useLayoutEffect(() => {
    if (document.activeElement === input.current && desk.now().drafts[id] === undefined) input.current?.select()
  }, [desk, id, stands])
  const refused = held?.how === 'refused' && text === null
  const wrong = refused || echo.wrong
  const said = refused ? held.wrong : text === null ? '' : echo.text
  return (
    <span className="figure">
      <input
        ref={input}
        id={id}
        data-figure
        className={`mono ${className} ${lit ? 'lit' : ''} ${held === undefined ? '' : held.how}`}
        aria-label={label}
        aria-invalid={wrong}
        aria-describedby={said ? `${id}-said` : undefined}
        autoComplete="off"
        inputMode="decimal"
        spellCheck={false}
        value={text ?? stands}
        placeholder={given}
        onChange={(e) => setText(e.target.value)}
        onFocus={(e) => {
          desk.go()
          setTouched(TOUCH.matches)
          e.target.select()
        }}
        onBlur={() => {
          setTouched(false)
          take()
        }}
        onKeyDown={onKey}
      />
      {touched && <TouchKeys type={insert} />}
      {said !== '' && (
        <span id={`${id}-said`} className={wrong ? 'said wrong' : 'said'} role={wrong ? 'alert' : undefined}>
          {said}
        </span>
      )}
    </span>
  )
}
