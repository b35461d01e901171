import { useEffect, useMemo, useState } from 'react'
import { Link, useParams } from 'react-router'
import type { QuestionRow } from '../api/types'
import { figure } from '../api/units'
import { shownUnit } from '../entry/acts'
import { DimensionField } from '../entry/DimensionField'
import { ToolInHand } from '../entry/ToolInHand'
import { DeskHome, useDesk, useDeskPart } from '../entry/useDesk'
import { readingsOf } from '../run/readings'
import { BuildContextHome, TrialHome, useBuild } from '../shell/buildContext'
import { setSettings, useSettings } from '../shell/settings'
import { Unopened } from '../shell/Unopened'
import { useBuildController } from '../shell/useBuildController'
import { Catch, Waits } from './Catch'
import { Clock } from './Clock'
import './capture.css'

/** Keeps the screen on, where the browser lets a page do that. */
function useAwake(): string {
  const [told, tell] = useState('')
  useEffect(() => {
    let lock: WakeLockSentinel | null = null
    const wake = () => {
      if (document.visibilityState !== 'visible') return
      if (!('wakeLock' in navigator)) {
        tell('This browser lets no page keep the screen on at this address: set the phone to stay awake.')
        return
      }
      navigator.wakeLock.request('screen').then(
        (held) => {
          lock = held
          tell('')
        },
        () => tell('The screen may go dark: the phone saves its battery.'),
      )
    }
    wake()
    document.addEventListener('visibilitychange', wake)
    return () => {
      document.removeEventListener('visibilitychange', wake)
      void lock?.release()
    }
  }, [])
  return told
}

/** Says a reading aloud, where the browser can. */
function say(words: string): void {
  if (!('speechSynthesis' in window)) return
  window.speechSynthesis.cancel()
  window.speechSynthesis.speak(new SpeechSynthesisUtterance(words))
}

/** One reading after the other, large; the last one is read back. */
function Reading({ questions }: { questions: readonly QuestionRow[] }) {
  const { state, assessment, dimension, system } = useBuild()
  const desk = useDesk()
  const [first, choose] = useState(questions[0]?.key ?? '')
  const [aloud, setAloud] = useState(false)
  const [last, setLast] = useState('')
  const order = useMemo(() => readingsOf(questions, first, assessment), [assessment, first, questions])
  const [skipped, skip] = useState<readonly string[]>([])
  const now = order.find((r) => !skipped.includes(r.key) && desk.held(`capture-${r.key}`) === undefined) ?? order[0]
  const row = now && dimension(now.key)
  const read = last === '' ? undefined : assessment.quantities[last]
  const readRow = dimension(last)
  const typed = state.document.dims[last]?.statements.at(-1)?.takes.at(-1)?.typed ?? ''
  const held = useDeskPart(desk, () => desk.held(`capture-${last}`))
  const words = readRow === undefined ? '' : held?.how === 'refused' ? `${held.text}: ${held.wrong}` : (held?.text ?? typed)
  useEffect(() => {
    if (aloud && words !== '' && readRow !== undefined) say(`${readRow.name}, ${words}`)
  }, [aloud, readRow, words])
  return (
    <section aria-label="Reading" className="catchreading">
      <label className="field">
        At
        <select value={first} onChange={(e) => choose(e.target.value)}>
          {questions.map((q) => (
            <option key={q.key} value={q.key}>
              {q.name}, {q.station}
            </option>
          ))}
        </select>
      </label>
      {now !== undefined && row !== undefined ? (
        <div data-reading={now.key}>
          <p className="catchname">
            <span className="letter">{now.letter}</span> {row.name}
          </p>
          <p className="soft">{row.how}</p>
          <p className="catchentry">
            <DimensionField key={now.key} at="capture" row={row} q={assessment.quantities[now.key]} system={system} leave={() => setLast(now.key)} />
            <span className="unit">{shownUnit(row, system)}</span>
          </p>
          <div className="catchbuttons">
            <button
              type="button"
              className="big main"
              onMouseDown={(e) => e.preventDefault()}
              onClick={() => {
                const field = document.getElementById(`capture-${now.key}`)
                field?.focus()
                field?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }))
              }}
            >
              Reading
            </button>
            <button type="button" className="big" onClick={() => skip([...skipped, now.key])}>
              Skip
            </button>
          </div>
        </div>
      ) : (
        <p className="catchname">Nothing is wanting here.</p>
      )}
      {words !== '' && (
        <p className={`readback ${held?.how === 'refused' ? 'fouls' : ''}`} role="status" aria-label="Read back">
          <span className="soft">{readRow?.name}</span> <b className="mono">{words}</b>
          {held === undefined && readRow !== undefined && read?.value != null && (
            <span className="soft">
              {figure(read.value, readRow.kind, system, read.pm)} ± {figure(read.pm, readRow.kind, system, read.pm)} {shownUnit(readRow, system)}, {read.tool || 'tool not said'}
            </span>
          )}
        </p>
      )}
      {'speechSynthesis' in window && (
        <label>
          <input type="checkbox" checked={aloud} onChange={(e) => setAloud(e.target.checked)} /> say it aloud
        </label>
      )}
    </section>
  )
}

/** What stands between the hands and the server, in words. */
function Connection() {
  const desk = useDesk()
  const waits = useDeskPart(desk, (s) => s.waiting.length)
  const since = useDeskPart(desk, (s) => s.since)
  return <span className={since === null ? 'soft' : 'fouls'}>{since === null ? (waits === 0 ? 'all sent' : `${waits} on their way`) : `Pindo is away: ${waits} readings wait here`}</span>
}

function Hands() {
  const { state, catalogue, assessment } = useBuild()
  const { who } = useSettings()
  const asleep = useAwake()
  const asked = new Set(assessment.asked)
  const questions = catalogue.questions.filter((q) => asked.has(q.key) && q.ledger.some((l) => asked.has(l.key)))
  return (
    <main className="capture" aria-label="Capture">
      <header>
        <Link to={`/build/${state.id}/survey`}>{state.document.name}</Link> <Connection />
      </header>
      <div className="catchsaid">
        <ToolInHand />
        <label className="field">
          read by
          <input value={who} maxLength={60} onChange={(e) => setSettings({ who: e.target.value })} />
        </label>
      </div>
      <Reading questions={questions} />
      <Catch build={state.id} />
      <Clock build={state.id} />
      <Waits />
      {asleep !== '' && <p className="soft">{asleep}</p>}
    </main>
  )
}

/** For full or gloved hands, on a phone or tablet: reading, photo, voice note, clock, each one large button. */
export default function CapturePage() {
  const { id = '' } = useParams()
  const { system } = useSettings()
  const { context, trial, desk, error, openAgain } = useBuildController(id, system, '')
  if (context === null) return <main className="waiting">{error ? <Unopened id={id} error={error} again={openAgain} /> : <p role="status">Opening the build</p>}</main>
  return (
    <DeskHome.Provider value={desk}>
      <BuildContextHome.Provider value={context}>
        <TrialHome.Provider value={trial}>
          <div id="home" tabIndex={-1} className="capturehome">
            <Hands />
          </div>
        </TrialHome.Provider>
      </BuildContextHome.Provider>
    </DeskHome.Provider>
  )
}
