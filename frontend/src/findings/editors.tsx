import Button from '@mui/material/Button'
import { useState, type FormEvent } from 'react'
import type { Detail, Finding } from '../api/types'
import { putAt, removeAt } from '../entry/acts'
import { useBuild } from '../shell/buildContext'
import './findings.css'

interface FormProps {
  opens: string
  children: React.ReactNode
  send: (form: FormData) => Promise<string | null>
  undo?: { words: string; act: () => void }
}

/** A small form behind a quiet button; what the server refuses stands in it, and what was typed stays. */
function QuietForm({ opens, children, send, undo }: FormProps) {
  const [open, setOpen] = useState(false)
  const [wrong, setWrong] = useState('')
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const refused = await send(new FormData(event.currentTarget))
    setWrong(refused ?? '')
    if (refused === null) setOpen(false)
  }
  if (!open)
    return (
      <span className="actions">
        <button type="button" className="quiet" onClick={() => setOpen(true)}>
          {opens}
        </button>
        {undo && (
          <button type="button" className="quiet" onClick={undo.act}>
            {undo.words}
          </button>
        )}
      </span>
    )
  return (
    <form className="quietform" onSubmit={(e) => void submit(e)} aria-label={opens}>
      {children}
      {wrong && <p role="alert" className="fouls">{wrong}</p>}
      <Button variant="outlined" type="submit">
        Keep
      </Button>
      <Button variant="text" onClick={() => setOpen(false)}>
        Leave it
      </Button>
    </form>
  )
}

/** Changes a limit for this build, with the reason; the change shows wherever the limit acts. */
export function LimitEditor({ rule }: { rule: Detail['rules'][number] }) {
  const { change } = useBuild()
  const send = (form: FormData): Promise<string | null> => {
    const value = Number(String(form.get('value')).replace(',', '.'))
    if (!Number.isFinite(value) || String(form.get('value')).trim() === '') return Promise.resolve('The limit is a plain number.')
    const note = String(form.get('note')).trim()
    if (note.length < 3) return Promise.resolve('Say why: whoever reads this later has to know.')
    return change([putAt(`/rules/${rule.id}`, { value, note })], `limit changed: ${rule.name}`)
  }
  const undo = { words: `back to ${rule.default}`, act: () => void change([removeAt(`/rules/${rule.id}`)], `limit back to its default: ${rule.name}`) }
  return (
    <QuietForm opens={`change ${rule.name.charAt(0).toLowerCase()}${rule.name.slice(1)} for this build`} send={send} undo={rule.overridden ? undo : undefined}>
      <label className="field">
        Limit{rule.unit && `, ${rule.unit}`}
        <input name="value" className="mono" defaultValue={rule.value} autoFocus inputMode="decimal" />
      </label>
      <label className="field note">
        Why
        <input name="note" defaultValue={rule.note} maxLength={2000} />
      </label>
    </QuietForm>
  )
}

/** Accepts a finding by name for a time; it never reads as goes. */
export function WaiverEditor({ finding }: { finding: Finding }) {
  const { change } = useBuild()
  const send = (form: FormData): Promise<string | null> => {
    const text = (name: string) => String(form.get(name)).trim()
    if (text('who') === '' || text('reason').length < 3 || text('until') === '') return Promise.resolve('A waiver has a name, a reason and an end.')
    return change([putAt(`/waivers/${finding.id}`, { who: text('who'), reason: text('reason'), until: text('until') })], `waived: ${finding.title}`)
  }
  const undo = { words: 'take the waiver back', act: () => void change([removeAt(`/waivers/${finding.id}`)], `waiver taken back: ${finding.title}`) }
  return (
    <QuietForm opens="waive for a time" send={send} undo={finding.waived_by ? undo : undefined}>
      <label className="field">
        Who
        <input name="who" maxLength={200} autoFocus />
      </label>
      <label className="field">
        Until
        <input name="until" type="date" />
      </label>
      <label className="field note">
        Reason
        <input name="reason" maxLength={2000} />
      </label>
    </QuietForm>
  )
}
