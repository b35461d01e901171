import { useState, type FormEvent } from 'react'
import type { Act, ColumnRow } from '../api/types'
import { once } from '../entry/hands'
import { useBuild } from '../shell/buildContext'
import { isFigure } from './cells'
import type { AnyRow } from './rows'
import './rows.css'

interface Props {
  list: string
  of?: number
  row: AnyRow
  columns: readonly ColumnRow[]
  called: string
  /** Does it, with words for the history; says what was refused. */
  act: (act: Act, words: string) => void
}

const NO_TEXT = new Set(['whole', 'yes', 'numbers', 'words'])

/** What others say of a row's figures, dates and words: put beside what it says, and settled with a reason. */
export function Others({ list, of, row, columns, called, act }: Props) {
  const { catalogue } = useBuild()
  const [why, say] = useState('')
  const [next, set] = useState({ field: '', typed: '', source: 'measured', who: '' })
  const told = columns.filter((c) => c.field !== 'name' && !NO_TEXT.has(c.kind))
  const others = row.others ?? []
  const column = (field: string) => columns.find((c) => c.field === field)?.label ?? field
  const settle = (other: number, holds: boolean) => act({ do: 'settle', list, of, row: row.n, other, holds, why: why.trim() }, `${called}, ${column(others[other]?.field ?? '')}: ${holds ? 'the other holds' : 'the other does not hold'}`)
  const put = (event: FormEvent) => {
    event.preventDefault()
    const { field, typed, source, who } = next
    act({ do: 'beside', list, of, row: row.n, field, typed, source: source as 'measured', tool: null, who }, `${called}, ${column(field)}: said to be ${typed} too`)
    set({ ...next, typed: '' })
  }
  const open = others.some((o) => o.settled === '')
  return (
    <section className="others" aria-label={`What others say of ${called}`}>
      <ul className="plain">
        {others.map((o, i) => (
          <li key={i} className={o.settled ? 'soft' : ''}>
            {column(o.field)}: <span className="mono">{o.typed}</span> ({[o.evidence.source, o.evidence.tool, o.evidence.who].filter(Boolean).join(', ')}) beside <span className="mono">{String(row[o.field] ?? '') || 'nothing'}</span>
            {o.settled ? (
              `: does not hold, ${o.settled}`
            ) : (
              <>
                {' '}
                <button type="button" className="plainbutton" disabled={why.trim().length < 3} onClick={once(() => settle(i, true))}>
                  {o.typed} holds
                </button>{' '}
                <button type="button" className="plainbutton" disabled={why.trim().length < 3} onClick={once(() => settle(i, false))}>
                  {o.typed} does not
                </button>
              </>
            )}
          </li>
        ))}
      </ul>
      {open && (
        <label className="field">
          why that one
          <input value={why} maxLength={500} onChange={(e) => say(e.target.value)} />
        </label>
      )}
      <form className="options" onSubmit={put}>
        <label className="field">
          Said otherwise of
          <select value={next.field} onChange={(e) => set({ ...next, field: e.target.value })}>
            <option value="">which …</option>
            {told.map((c) => (
              <option key={c.field} value={c.field}>
                {c.label}
              </option>
            ))}
          </select>
        </label>
        <label className="field">
          it is
          <input className="mono" value={next.typed} maxLength={120} onChange={(e) => set({ ...next, typed: e.target.value })} />
        </label>
        {told.some((c) => c.field === next.field && isFigure(c)) && (
          <label className="field">
            by
            <select value={next.source} onChange={(e) => set({ ...next, source: e.target.value })}>
              {catalogue.sources.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </select>
          </label>
        )}
        <label className="field">
          whose word
          <input value={next.who} maxLength={200} onChange={(e) => set({ ...next, who: e.target.value })} />
        </label>
        <button type="submit" className="plainbutton" disabled={next.field === '' || next.typed.trim() === ''}>
          Put beside
        </button>
      </form>
    </section>
  )
}
