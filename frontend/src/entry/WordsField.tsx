import { useState, type KeyboardEvent } from 'react'
import type { Act } from '../api/types'
import { goHome } from './hands'
import { useDesk, useDeskPart, useHeld } from './useDesk'
import './entry.css'

interface Props {
  id: string
  /** For the history; the label too, where no other stands beside it. */
  words: string
  labelled?: boolean
  shown: string
  className?: string
  maxLength?: number
  acts: (text: string) => Act[]
  /** What is wrong with a text, before it is handed over; empty for nothing. */
  check?: (text: string) => string
}

/** A field for words or whole numbers: what cannot stand there is refused in place and keeps its text. */
export function WordsField({ id, words, labelled = false, shown, className, maxLength = 2000, acts, check }: Props) {
  const desk = useDesk()
  const held = useHeld(id)
  const text = useDeskPart(desk, (s) => s.drafts[id] ?? null)
  const [wrong, setWrong] = useState('')
  const stands = held?.text ?? shown
  const setText = (next: string | null) => {
    desk.draft(id, next)
    setWrong('')
  }
  const take = (again = false) => {
    const before = again && held?.how === 'refused' ? held.text : undefined
    const entry = desk.now().drafts[id] ?? before
    if (entry === undefined) return
    const refused = entry === stands ? '' : (check?.(entry.trim()) ?? '')
    if (refused !== '') {
      setWrong(refused)
      return
    }
    if (entry !== stands || before !== undefined) desk.enter({ field: id, words, text: entry, was: stands, acts: acts(entry) })
    else setText(null)
  }
  const onKey = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter') {
      take(true)
      if (desk.now().drafts[id] === undefined) goHome()
    }
    if (event.key === 'Escape') {
      setText(null)
      desk.forget(id)
      goHome()
    }
  }
  const said = wrong || (held?.how === 'refused' && text === null ? held.wrong : '')
  return (
    <span className="figure words">
      <input id={id} className={`${className ?? ''} ${held?.how ?? ''}`} aria-label={labelled ? undefined : words} aria-invalid={said !== ''} aria-describedby={said ? `${id}-said` : undefined} value={text ?? stands} maxLength={maxLength} onChange={(e) => setText(e.target.value)} onBlur={() => take()} onKeyDown={onKey} />
      {said !== '' && (
        <span id={`${id}-said`} className="said wrong" role="alert">
          {said}
        </span>
      )}
    </span>
  )
}
