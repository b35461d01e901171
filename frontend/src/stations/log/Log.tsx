import Button from '@mui/material/Button'
import { useState, type FormEvent } from 'react'
import { api } from '../../api/client'
import type { Finding } from '../../api/types'
import { figure, unitOf } from '../../api/units'
import { FigureField } from '../../ledger/FigureField'
import { addRowOps, RowsEditor } from '../../rows/RowsEditor'
import { useBuild } from '../../shell/buildContext'
import { setSettings, useSettings } from '../../shell/settings'

/** Entries, newest first, with their pictures; a new one in one line. */
function Entries() {
  const { state, change } = useBuild()
  const [text, setText] = useState('')
  const { who } = useSettings()
  const [files, setFiles] = useState<File[]>([])
  const [wrong, setWrong] = useState('')
  const entries = state.document.log
  const add = async (event: FormEvent) => {
    event.preventDefault()
    if (text.trim() === '') {
      setWrong('Say what happened first.')
      return
    }
    try {
      const photos = await Promise.all(files.map((f) => api.keepPhoto(state.id, f)))
      const refused = await change(addRowOps(state.document, 'log', { name: text.trim().slice(0, 200), note: text.trim().slice(200), who, at: new Date().toISOString(), photos }), 'log entry')
      setWrong(refused ?? '')
      if (refused === null) {
        setText('')
        setFiles([])
      }
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error))
    }
  }
  return (
    <section aria-label="Log entries">
      <div className="panelhead">
        <h2>Log</h2>
        <span className="soft">{entries.length} entries</span>
      </div>
      <form className="options logform" onSubmit={(e) => void add(e)}>
        <label className="field note">
          What happened
          <input value={text} onChange={(e) => setText(e.target.value)} maxLength={2000} />
        </label>
        <label className="field">
          Who
          <input value={who} onChange={(e) => setSettings({ who: e.target.value })} maxLength={200} />
        </label>
        <Button variant="outlined" component="label">
          {files.length > 0 ? `${files.length} photo${files.length > 1 ? 's' : ''}` : 'Photo'}
          <input type="file" accept="image/jpeg,image/png,image/webp" multiple hidden onChange={(e) => setFiles([...(e.target.files ?? [])])} />
        </Button>
        <Button variant="contained" type="submit">
          Write it down
        </Button>
        {wrong && (
          <p role="alert" className="fouls">
            {wrong}
          </p>
        )}
      </form>
      <ol className="plain entries">
        {[...entries].reverse().map((e) => (
          <li key={e.n}>
            <span className="soft">
              {e.at.slice(0, 10)} {e.who} {e.about && `· ${e.about}`}
            </span>
            <div>
              <b>{e.name}</b> {e.note}
            </div>
            {e.photos.map((p) => (
              <a key={p} href={`/api/builds/${state.id}/photos/${p}`} target="_blank" rel="noreferrer">
                <img src={`/api/builds/${state.id}/photos/${p}`} alt={`Photo with entry ${e.n}: ${e.name}`} height={84} />
              </a>
            ))}
          </li>
        ))}
      </ol>
    </section>
  )
}

const worthReading = (f: Finding) => f.kind === 'length' && f.value != null && (f.station === 'clear' || f.station === 'seat')

/** Trial fits: predicted and measured side by side, in a stated attitude. */
function Fits() {
  const { state, assessment, change, system } = useBuild()
  const [name, setName] = useState('')
  const [on, setOn] = useState('')
  const tight = [...assessment.findings].filter(worthReading).sort((a, b) => (a.margin ?? 0) - (b.margin ?? 0)).slice(0, 6)
  const begin = () => {
    const gaps = tight.map((f) => ({ finding: f.id, title: f.title, predicted: f.value, predicted_pm: f.value_pm }))
    const row = { name: name.trim() || 'trial fit', was_on: on.trim(), at: new Date().toISOString().slice(0, 10), state: state.document.state, evidence: { source: 'measured', tool: 'steel rule', state: state.document.state }, gaps }
    return change(addRowOps(state.document, 'fits', row), `trial fit begun: ${row.name}`)
  }
  const shown = (v: number | null | undefined) => (v == null ? '' : figure(v, 'length', system, 1))
  return (
    <section aria-label="Trial fits">
      <div className="panelhead">
        <h2>Trial fits</h2>
        <span className="soft">a gap belongs to the attitude that it was read in</span>
      </div>
      <div className="options">
        <label className="field">
          Name
          <input value={name} onChange={(e) => setName(e.target.value)} maxLength={200} />
        </label>
        <label className="field note">
          What is on
          <input value={on} onChange={(e) => setOn(e.target.value)} maxLength={2000} />
        </label>
        <Button variant="outlined" onClick={() => void begin()} disabled={tight.length === 0}>
          Begin a fit with the tightest {tight.length} gaps
        </Button>
      </div>
      {state.document.fits.map((fit, i) => (
        <div key={fit.n} tabIndex={0} className={`tablescroll fit ${fit.evidence.lapsed ? 'lapsed' : ''}`}>
          <h3>
            {fit.name} <span className="soft">{[fit.at, fit.state.position, fit.state.gearbox && `gearbox ${fit.state.gearbox}`, fit.was_on].filter(Boolean).join(' · ')}</span>
          </h3>
          {fit.evidence.lapsed && <p className="tight">Lapsed: {fit.evidence.lapsed.event}. Kept here, out of the verdicts.</p>}
          <table>
            <thead>
              <tr>
                <th>gap</th>
                <th>predicted, {unitOf('length', system)}</th>
                <th>read, mm</th>
                <th>says</th>
              </tr>
            </thead>
            <tbody>
              {fit.gaps.map((g, j) => {
                const f = assessment.findings.find((x) => x.id === `log.fit.${fit.n}.${j}`)
                return (
                  <tr key={j}>
                    <th scope="row">{g.title || g.finding}</th>
                    <td className="mono">
                      {shown(g.predicted)} {g.predicted_pm ? `± ${shown(g.predicted_pm)}` : ''}
                    </td>
                    <td>
                      <FigureField id={`fit-${fit.n}-${j}`} label={`${g.title || g.finding}, read, mm`} shown={g.measured ?? ''} kind="length" unit="mm" className={`cell ${g.measured ? '' : 'none'}`} mayClear commit={(typed) => change([{ op: 'add', path: `/fits/${i}/gaps/${j}/measured`, value: typed || null }], `${fit.name}: ${g.title} read`)} />
                    </td>
                    <td className={f?.verdict ?? ''}>{f ? (f.verdict === 'goes' ? 'agrees' : f.verdict === 'fouls' ? 'the reading wins' : 'not read yet') : ''}</td>
                  </tr>
                )
              })}
            </tbody>
          </table>
        </div>
      ))}
    </section>
  )
}

function Money() {
  const { boards } = useBuild()
  const t = boards.totals
  const figures: [string, number][] = [
    ['paid', t.paid],
    ['still to pay', t.due],
    ['refunds received', t.refunded],
    ['refunds asked for', t.refunds_asked],
    ['forecast', t.forecast],
    ['once they are refunded', t.if_refunded],
  ]
  return (
    <p className="moneyline" aria-label="Money in one line">
      {figures.map(([words, value]) => (
        <span key={words}>
          {words} <b className="mono">{value.toFixed(2)}</b>
        </span>
      ))}
      <span className={t.unpriced > 0 ? 'tight' : ''}>
        <b className="mono">{t.unpriced}</b> unpriced
      </span>
    </p>
  )
}

/** Log: what was done and seen, fits, modifications, what is for now, parts, money, hours; the hand-over report. */
export function Log() {
  const { state } = useBuild()
  const minutes = state.document.hours.reduce((sum, h) => sum + (Number(h.minutes) || 0), 0)
  return (
    <>
      <p className="buildwords">
        <a href={`/api/builds/${state.id}/handover.pdf`} download>
          Hand-over report (PDF)
        </a>
      </p>
      <Entries />
      <Fits />
      <RowsEditor listKey="provisional" open />
      <RowsEditor listKey="modifications" />
      <RowsEditor listKey="parts" />
      <RowsEditor listKey="money" open fresh={{ state: 'planned' }} />
      <Money />
      <RowsEditor listKey="hours" words={`${(minutes / 60).toFixed(1)} hours`} />
    </>
  )
}
