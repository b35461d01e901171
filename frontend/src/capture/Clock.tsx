import { useEffect, useState } from 'react'
import { useDesk } from '../entry/useDesk'
import { newName } from '../entry/kept'
import { settingsNow } from '../shell/settings'
import './capture.css'

const keyOf = (build: string) => `pindo.clock.${build}`
const begun = (build: string): number | null => {
  const kept = Number(localStorage.getItem(keyOf(build)))
  return Number.isFinite(kept) && kept > 0 ? kept : null
}
const MINUTE_MS = 60_000

/** Starts and stops the time of a job; it runs on over reloads, and goes into the hours when it is stopped. */
export function Clock({ build }: { build: string }) {
  const desk = useDesk()
  const [since, setSince] = useState(() => begun(build))
  const [job, setJob] = useState('')
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    const tick = window.setInterval(() => setNow(Date.now()), 1000)
    return () => window.clearInterval(tick)
  }, [])
  const toggle = () => {
    if (since === null) {
      const at = Date.now()
      localStorage.setItem(keyOf(build), String(at))
      setSince(at)
      setNow(at)
      return
    }
    const minutes = Math.max(1, Math.round((Date.now() - since) / MINUTE_MS))
    const row = { name: job.trim() || 'as it was timed', at: new Date(since).toISOString().slice(0, 10), who: settingsNow().who, minutes: String(minutes) }
    desk.enter({ field: `hours-${newName()}`, words: `${row.name}, ${minutes} min`, text: String(minutes), acts: [{ do: 'add', list: 'hours', row: row as never }] })
    localStorage.removeItem(keyOf(build))
    setSince(null)
    setJob('')
  }
  const seconds = since === null ? 0 : Math.max(0, Math.floor((now - since) / 1000))
  return (
    <section aria-label="Clock">
      <label className="field">
        Job
        <input value={job} maxLength={200} onChange={(e) => setJob(e.target.value)} />
      </label>
      <div className="catchbuttons">
        <button type="button" className={`big ${since === null ? '' : 'on'}`} aria-pressed={since !== null} onClick={toggle}>
          {since === null ? 'Start the clock' : `Stop the clock ${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`}
        </button>
      </div>
    </section>
  )
}
