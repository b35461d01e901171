import Button from '@mui/material/Button'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { api, queries } from '../../api/client'
import type { Build, Finding } from '../../api/types'
import { figure, unitOf } from '../../api/units'
import { putInRow } from '../../entry/acts'
import { ChoiceField } from '../../entry/ChoiceField'
import { FigureField } from '../../entry/FigureField'
import { once } from '../../entry/hands'
import { WordsField } from '../../entry/WordsField'
import { RowsEditor } from '../../rows/RowsEditor'
import { useBuild } from '../../shell/buildContext'
import { setSettings, useSettings } from '../../shell/settings'

/** A picture of an entry. It is deleted for good, since no undo could bring it back: that is asked first. */
function Photo({ build, photo, of, deleted }: { build: string; photo: string; of: string; deleted: boolean }) {
  const client = useQueryClient()
  const [doomed, setDoomed] = useState(false)
  const [wrong, setWrong] = useState('')
  const address = `/api/builds/${build}/photos/${photo}`
  if (deleted) return <span className="soft">A picture that was deleted.</span>
  const remove = async () => {
    setDoomed(false)
    try {
      await api.deletePhoto(build, photo)
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error))
    }
    await client.invalidateQueries({ queryKey: ['photos', build] })
  }
  return (
    <span className="photo">
      <a href={address} target="_blank" rel="noreferrer">
        <img src={address} alt={of} height={84} />
      </a>
      {doomed ? (
        <span className="actions">
          <button type="button" onClick={() => void remove()}>
            Delete it for good
          </button>
          <button type="button" onClick={() => setDoomed(false)}>
            Leave it
          </button>
        </span>
      ) : (
        <button type="button" className="quiet" onClick={() => setDoomed(true)}>
          delete<span className="visually-hidden"> {of}</span>
        </button>
      )}
      {wrong && <span role="alert">{wrong}</span>}
    </span>
  )
}

/** Entries, newest first, with their pictures; a new one in one line. */
function Entries() {
  const { state, change } = useBuild()
  const [text, setText] = useState('')
  const { who } = useSettings()
  const [files, setFiles] = useState<File[]>([])
  const [wrong, setWrong] = useState('')
  const entries = state.document.log
  const photos = useQuery({ ...queries.photos(state.id, state.tag), enabled: entries.some((e) => e.photos.length > 0) })
  const add = async (event: FormEvent) => {
    event.preventDefault()
    if (text.trim() === '') {
      setWrong('Say what happened first.')
      return
    }
    try {
      const photos = await Promise.all(files.map((f) => api.keepPhoto(state.id, f)))
      const refused = await change([{ do: 'add', list: 'log', row: { name: text.trim().slice(0, 200), note: text.trim().slice(200), who, at: new Date().toISOString(), photos } as never }], 'log entry')
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
              <Photo key={p} build={state.id} photo={p} of={`Photo with entry ${e.n}: ${e.name}`} deleted={photos.data !== undefined && !photos.data.some((x) => x.id === p)} />
            ))}
          </li>
        ))}
      </ol>
    </section>
  )
}

const worthReading = (f: Finding) => f.kind === 'length' && f.value != null && (f.station === 'clear' || f.station === 'seat')

const SAYS = { goes: 'agrees', fouls: 'the reading wins', tight: 'nearly agrees', unmeasured: 'not read yet' } as const
type Fit = Build['fits'][number]

/** One fit: its gaps as they were predicted and as they were read; own gaps may be added, with what they lie between. */
function OneFit({ fit, index }: { fit: Fit; index: number }) {
  const { state, catalogue, assessment, change, system } = useBuild()
  const shown = (v: number | null | undefined) => (v == null ? '' : figure(v, 'length', system, 1))
  const put = (path: string, value: unknown) => [putInRow(`/fits/${index}`, fit.n, 'n', path, value)]
  const tied = assessment.findings.filter(worthReading)
  return (
    <div tabIndex={0} className={`tablescroll fit ${fit.evidence.lapsed ? 'lapsed' : ''}`}>
      <h3>
        {fit.name} <span className="soft">{[fit.at, fit.state.position, fit.state.gearbox && `gearbox ${fit.state.gearbox}`, fit.was_on].filter(Boolean).join(' · ')}</span>
      </h3>
      {fit.evidence.lapsed && <p className="tight">Lapsed: {fit.evidence.lapsed.event}. Kept here, out of the verdicts.</p>}
      <table>
        <thead>
          <tr>
            <th>gap</th>
            <th>stands for</th>
            <th>predicted, {unitOf('length', system)}</th>
            <th>read, mm</th>
            <th>says</th>
          </tr>
        </thead>
        <tbody>
          {fit.gaps.map((g, j) => {
            const f = assessment.findings.find((x) => x.id === `log.fit.${fit.n}.${j}`)
            const name = g.title || g.finding || `gap ${j + 1}`
            const id = `fit-${fit.n}-${j}`
            const of = `${fit.name}, ${name}`
            return (
              <tr key={j} className={g.lapsed ? 'lapsed' : ''}>
                <th scope="row">{g.finding ? name : <WordsField id={`${id}-title`} words={`${of}, name`} shown={g.title} maxLength={200} acts={(text) => put(`gaps/${j}/title`, text)} />}</th>
                <td>
                  <ChoiceField id={`${id}-finding`} words={`${of}, stands for`} record shown={g.finding} choices={[['', 'a gap of its own'], ...tied.map((t) => [t.id, t.title] as const), ...(g.finding && !tied.some((t) => t.id === g.finding) ? [[g.finding, g.title || g.finding] as const] : [])]} acts={(value) => put(`gaps/${j}/finding`, value)} />
                  {g.finding === '' && <ChoiceField id={`${id}-class`} words={`${of}, between`} record shown={g.class_} choices={catalogue.gap_classes} acts={(value) => put(`gaps/${j}/class_`, value)} />}
                  <ChoiceField id={`${id}-kind`} words={`${of}, kind of reading`} record shown={g.kind} choices={catalogue.gap_kinds} acts={(value) => put(`gaps/${j}/kind`, value)} />
                </td>
                <td className="mono">
                  {shown(g.predicted)} {g.predicted_pm ? `± ${shown(g.predicted_pm)}` : ''}
                </td>
                <td>
                  {g.lapsed && <s className="mono soft">{g.measured}</s>}
                  <FigureField id={id} label={`${name}, read, mm`} shown={g.lapsed ? '' : (g.measured ?? '')} kind="length" unit="mm" className={`cell ${g.measured ? '' : 'none'}`} mayClear acts={(typed) => [...put(`gaps/${j}/measured`, typed || null), ...put(`gaps/${j}/lapsed`, '')]} />
                </td>
                <td className={g.lapsed ? 'tight' : (f?.verdict ?? '')}>{g.lapsed ? `lapsed: ${g.lapsed}` : f ? SAYS[f.verdict] : ''}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <Button variant="outlined" onClick={once(() => void change([putInRow(`/fits/${index}`, fit.n, 'n', 'gaps/-', { finding: '', title: '', class_: 'metal to chassis' })], `${fit.name}: a gap of its own added to ${state.document.name}`))}>
        Add a gap of its own
      </Button>
    </div>
  )
}

/** Trial fits: predicted and measured side by side, in a stated attitude. */
function Fits() {
  const { state, assessment, change } = useBuild()
  const [name, setName] = useState('')
  const [on, setOn] = useState('')
  const tight = [...assessment.findings].filter(worthReading).sort((a, b) => (a.margin ?? 0) - (b.margin ?? 0)).slice(0, 6)
  const begin = async () => {
    const gaps = tight.map((f) => ({ finding: f.id, title: f.title, predicted: f.value, predicted_pm: f.value_pm }))
    const row = { name: name.trim() || 'trial fit', was_on: on.trim(), at: new Date().toISOString().slice(0, 10), state: state.document.state, evidence: { source: 'measured', state: state.document.state }, gaps }
    if ((await change([{ do: 'add', list: 'fits', row: row as never }], `trial fit begun: ${row.name}`)) === null) {
      setName('')
      setOn('')
    }
  }
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
        <Button variant="outlined" onClick={once(() => void begin())}>
          {tight.length > 0 ? `Begin a fit with the tightest ${tight.length} gaps` : 'Begin a fit'}
        </Button>
      </div>
      {state.document.fits.map((fit, i) => (
        <OneFit key={fit.n} fit={fit} index={i} />
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
  const { state, boards } = useBuild()
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
      <RowsEditor listKey="hours" words={`${(boards.minutes_worked / 60).toFixed(1)} hours`} />
    </>
  )
}
