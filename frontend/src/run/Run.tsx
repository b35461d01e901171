import { useEffect, useLayoutEffect, useMemo, useState, type KeyboardEvent } from 'react'
import type { QuestionRow, Resolved } from '../api/types'
import { figure } from '../api/units'
import { putAt } from '../entry/acts'
import { shownUnit } from '../entry/acts'
import { DimensionField } from '../entry/DimensionField'
import { focusOn } from '../entry/hands'
import { ToolInHand } from '../entry/ToolInHand'
import { useDesk, useDeskPart } from '../entry/useDesk'
import { StateFields } from '../ledger/StateFields'
import { useBuild } from '../shell/buildContext'
import { endRun, light } from '../shell/looked'
import { setSettings, useSettings } from '../shell/settings'
import { useGo } from '../shell/visit'
import { goneTo, putOff, readingsOf, takenNow, type Order, type Reading } from './readings'
import './run.css'

const SHOWN_BEFORE = 3
const SHOWN_AFTER = 3
const fieldOf = (key: string) => `run-${key}`

/** What goes with every reading of the run, said once: the tool, the state of the build, who reads. */
function SaidOnce() {
  const { state } = useBuild()
  const { who } = useSettings()
  const [open, setOpen] = useState(false)
  const said = Object.values(state.document.state).filter((v) => typeof v === 'string' && v !== '')
  return (
    <>
      <ToolInHand />
      <label className="field">
        read by
        <input value={who} maxLength={60} onChange={(e) => setSettings({ who: e.target.value })} />
      </label>
      <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        state: {said.length === 0 ? 'not said' : said.join(', ')}
      </button>
      {open && (
        <div className="options runstate">
          <StateFields id="run-state" state={state.document.state} of="of the build" acts={(field, value) => [putAt(`/state/${field}`, value)]} />
        </div>
      )}
    </>
  )
}

/** What stands at a reading that is not in hand: its figure as it was understood, or why it was refused. */
function Stands({ reading, q }: { reading: Reading; q: Resolved | undefined }) {
  const desk = useDesk()
  const { dimension, system } = useBuild()
  const held = useDeskPart(desk, () => desk.held(fieldOf(reading.key)))
  const row = dimension(reading.key)
  if (held?.how === 'refused') return <b className="fouls">“{held.text}” refused: {held.wrong}</b>
  if (held !== undefined) return <span className="mono">{held.text} is sent</span>
  if (row === undefined || q?.value == null) return <span className="soft">{q?.status === 'word' ? `“${q.detail}”` : 'not taken'}</span>
  return (
    <span className="mono">
      {figure(q.value, row.kind, system, q.pm)} ± {figure(q.pm, row.kind, system, q.pm)} {shownUnit(row, system)}
    </span>
  )
}

/** Reading after reading, with nothing between them but Enter; the picture beside it shows what is read. */
export default function Run({ questions, question }: { questions: readonly QuestionRow[]; question: string }) {
  const { assessment, dimension, system } = useBuild()
  const desk = useDesk()
  const go = useGo()
  const [order, setOrder] = useState<Order>(() => ({ readings: readingsOf(questions, question, assessment), at: 0 }))
  const now = order.readings[order.at]
  const stopped = useDeskPart(desk, (s) => s.stopped)
  const refused = useDeskPart(desk, (s) => s.refused)
  const names = useMemo(() => order.readings.map((r) => dimension(r.key)?.name ?? r.key), [dimension, order.readings])
  // The field follows in the same moment as the key: what is typed next is typed into it.
  useLayoutEffect(() => {
    if (now !== undefined) document.getElementById(fieldOf(now.key))?.focus({ preventScroll: true })
  }, [now])
  useEffect(() => {
    if (now === undefined) return
    light(now.key)
    go(now.question.station, now.question.key)
  }, [go, now])
  const turn = (by: number) => setOrder((o) => goneTo(o, o.at + by))
  const onKey = (event: KeyboardEvent) => {
    if (!(event.target instanceof HTMLInputElement) || event.target.dataset['figure'] === undefined) return
    if (event.key === 'ArrowDown' && event.altKey) setOrder((o) => putOff(o))
    else if (event.key === 'ArrowDown') turn(1)
    else if (event.key === 'ArrowUp') turn(-1)
    else return
    event.preventDefault()
  }
  const row = now && dimension(now.key)
  const wrong = refused.filter((h) => order.readings.some((r) => fieldOf(r.key) === h.field))
  const line = (r: Reading, i: number) => (
    <li key={r.key}>
      <button type="button" className="quiet" onClick={() => setOrder((o) => (i > o.at ? takenNow(o, i) : goneTo(o, i)))}>
        <span className="letter">{r.letter}</span> <span className="runline">{names[i]}</span>
      </button>
      <Stands reading={r} q={assessment.quantities[r.key]} />
    </li>
  )
  return (
    <section className="run" aria-label="Run of readings" onKeyDown={onKey}>
      <div className="runhead">
        <h2>
          Run <span className="soft mono">{Math.min(order.at + 1, order.readings.length)} of {order.readings.length}</span>
        </h2>
        <SaidOnce />
        <button type="button" className="plainbutton" onClick={endRun}>
          End <kbd>Alt M</kbd>
        </button>
      </div>
      {(stopped || wrong.length > 0) && wrong[0] !== undefined && (
        <p role="alert" className="fouls runwrong">
          {wrong[0].words}: “{wrong[0].text}” was refused, {wrong[0].wrong}{' '}
          <button
            type="button"
            className="plainbutton"
            onClick={() => {
              const at = order.readings.findIndex((r) => fieldOf(r.key) === wrong[0]?.field)
              setOrder(goneTo(order, at))
              requestAnimationFrame(() => focusOn(wrong[0]?.field ?? ''))
            }}
          >
            read it again
          </button>
        </p>
      )}
      <div className="runbody">
        <ol className="plain before" aria-label="Taken before">
          {order.readings.slice(0, order.at).map(line).slice(-SHOWN_BEFORE)}
        </ol>
        {now !== undefined && row !== undefined ? (
          <div className="runnow" data-reading={now.key}>
            <p className="runname">
              <span className="letter">{now.letter}</span> {row.name}
            </p>
            <p className="runentry">
              <DimensionField key={now.key} at="run" row={row} q={assessment.quantities[now.key]} system={system} leave={(back) => turn(back ? -1 : 1)} /> <span className="unit">{shownUnit(row, system)}</span>
            </p>
            <p className="soft runhow" title={row.how}>
              {row.how}
            </p>
          </div>
        ) : (
          <p className="runnow" role="status">
            {order.readings.length === 0 ? 'There is nothing to read here.' : 'That was the last one.'}{' '}
            <button type="button" className="plainbutton main" onClick={endRun}>
              Back to the question
            </button>
          </p>
        )}
        <ol className="plain after" aria-label="What comes next">
          {order.readings.slice(order.at + 1, order.at + 1 + SHOWN_AFTER).map((r, i) => line(r, order.at + 1 + i))}
          {order.readings.length > order.at + 1 + SHOWN_AFTER && <li className="soft">and {order.readings.length - order.at - 1 - SHOWN_AFTER} more</li>}
        </ol>
      </div>
      <p className="soft runkeys">
        <kbd>Enter</kbd> next, <kbd>Shift Enter</kbd> back, <kbd>↓</kbd> skip, <kbd>↑</kbd> back without entering, <kbd>Alt ↓</kbd> later; a name on the right is taken now
      </p>
    </section>
  )
}
