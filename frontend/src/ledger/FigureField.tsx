import { useEffect, useRef, useState, type KeyboardEvent } from 'react'
import { api } from '../api/client'

interface Props {
  id: string
  label: string
  /** What stands there now, as the screen shows it; empty for nothing. */
  shown: string
  kind: string
  unit: string
  className: string
  /** Takes the entry over, or only tries it; answers with what is wrong, or null. */
  commit: (typed: string, isWord: boolean, asTrial: boolean) => Promise<string | null>
  /** Empty entries are taken over as nothing, where that means something. */
  mayClear?: boolean
  /** Its callout is pointed at. */
  lit?: boolean
}

/** Focuses the next field that is still unmeasured, in the order of the screen; inside a table only of that table. */
function toNextUnmeasured(from: HTMLElement): void {
  const fields = [...(from.closest('table') ?? document).querySelectorAll<HTMLInputElement>('[data-figure]')]
  const later = fields.slice(fields.indexOf(from as HTMLInputElement) + 1)
  const next = later.find((f) => f.closest('[data-unmeasured="true"]')) ?? later[0]
  next?.focus()
}

/** The one field for numbers: fractions, either unit, a comma, arithmetic, ±, words; echoes what it understood. */
export function FigureField({ id, label, shown, kind, unit, className, commit, mayClear = false, lit = false }: Props) {
  const [text, show] = useState<string | null>(null)
  // The text as it is now: Enter moves the focus on before the next render, and its blur must not enter it twice.
  const typed = useRef<string | null>(null)
  const setText = (next: string | null) => {
    typed.current = next
    show(next)
  }
  const [echo, setEcho] = useState('')
  const [wrong, setWrong] = useState('')
  const taking = useRef<string | null>(null)
  const ask = useRef(0)
  const input = useRef<HTMLInputElement>(null)

  useEffect(() => {
    if (text === null || text.trim() === '') {
      setEcho('')
      setWrong('')
      return undefined
    }
    const mine = (ask.current += 1)
    const timer = window.setTimeout(() => {
      api.quantity(text, kind, unit || undefined).then(
        (e) => {
          if (mine !== ask.current) return
          setWrong('')
          setEcho(e.word != null ? `“${e.word}” is kept; give the number that it stands for` : `${e.echo}${e.pm == null ? '' : `, ± ${Math.round(e.pm * 1e4) / 1e4}`}`)
        },
        (error: Error) => {
          if (mine !== ask.current) return
          setEcho('')
          setWrong(error.message)
        },
      )
    }, 90)
    return () => window.clearTimeout(timer)
  }, [kind, text, unit])

  const take = async (asTrial = false): Promise<boolean> => {
    const entry = typed.current
    if (entry === null || entry === taking.current) return entry === null
    if (entry === shown || (entry.trim() === '' && !mayClear)) {
      setText(null)
      return true
    }
    ask.current += 1
    taking.current = entry
    try {
      const word = entry.trim() === '' ? null : (await api.quantity(entry, kind, unit || undefined)).word
      const refused = await commit(entry.trim(), word != null, asTrial)
      if (refused === null) {
        if (typed.current === entry) setText(null)
        return true
      }
      setWrong(refused)
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error))
    } finally {
      taking.current = null
    }
    return false
  }

  const onKey = (event: KeyboardEvent<HTMLInputElement>) => {
    const field = event.currentTarget
    // Hands that have gone on to another field meanwhile are never pulled away from it: a figure would land in the wrong place.
    // With Shift it is only tried: the focus stays, so that another figure can be tried after it.
    if (event.key === 'Enter' && event.shiftKey) void take(true)
    else if (event.key === 'Enter') void take().then((taken) => taken && document.activeElement === field && toNextUnmeasured(field))
    if (event.key === 'Escape') {
      setText(null)
      setWrong('')
      field.blur()
    }
  }
  const said = wrong || echo
  return (
    <span className="figure">
      <input
        ref={input}
        id={id}
        data-figure
        className={`mono ${className} ${lit ? 'lit' : ''}`}
        aria-label={label}
        aria-invalid={wrong !== ''}
        aria-describedby={said ? `${id}-said` : undefined}
        autoComplete="off"
        spellCheck={false}
        value={text ?? shown}
        onChange={(e) => setText(e.target.value)}
        onFocus={(e) => e.target.select()}
        onBlur={() => void take()}
        onKeyDown={onKey}
      />
      {text !== null && said !== '' && (
        <span id={`${id}-said`} className={wrong ? 'said wrong' : 'said'} role={wrong ? 'alert' : undefined}>
          {said}
        </span>
      )}
    </span>
  )
}
