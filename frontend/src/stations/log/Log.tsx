import Button from '@mui/material/Button'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { api, queries } from '../../api/client'
import type { Act, Build, Catalogue, Finding } from '../../api/types'
import { figure, unitOf } from '../../api/units'
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
export function Entries() {
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

/** Lengths that a gauge can read at a fit: of questions whose lengths are gaps. */
const worthReading = (gaps: ReadonlySet<string>) => (f: Finding) => f.kind === 'length' && f.value != null && gaps.has(f.question)
const gapsOf = (catalogue: Catalogue) => new Set(catalogue.questions.filter((q) => q.gaps).map((q) => q.key))

const SAYS = { goes: 'agrees', fouls: 'the reading wins', tight: 'nearly agrees', unmeasured: 'not read yet' } as const
type Fit = Build['fits'][number]
const GAPS = 'fits.gaps'

/** One fit: its gaps as they were predicted and as they were read; own gaps may be added, with what they lie between. */
function OneFit({ fit }: { fit: Fit }) {
  const { state, catalogue, assessment, change, system } = useBuild()
  const shown = (v: number | null | undefined) => (v == null ? '' : figure(v, 'length', system, 1))
  const columns = catalogue.lists.flatMap((l) => l.parts).find((p) => p.key === GAPS)?.columns ?? []
  const choices = (field: string) => columns.find((c) => c.field === field)?.choices ?? []
  const put = (gap: number, field: string, value: unknown): Act[] => [{ do: 'put', list: GAPS, of: fit.n, row: gap, field, value: value as never }]
  const tied = assessment.findings.filter(worthReading(gapsOf(catalogue)))
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
          {fit.gaps.map((g) => {
            const f = assessment.findings.find((x) => x.id === `log.fit.${fit.n}.${g.n}`)
            const name = g.title || g.finding || `gap ${g.n}`
            const id = `fit-${fit.n}-${g.n}`
            const of = `${fit.name}, ${name}`
            return (
              <tr key={g.n} className={g.lapsed ? 'lapsed' : ''}>
                <th scope="row">{g.finding ? name : <WordsField id={`${id}-title`} words={`${of}, name`} shown={g.title} maxLength={200} acts={(text) => put(g.n, 'title', text)} />}</th>
                <td>
                  <ChoiceField id={`${id}-finding`} words={`${of}, stands for`} record shown={g.finding} choices={[['', 'a gap of its own'], ...tied.map((t) => [t.id, t.title] as const), ...(g.finding && !tied.some((t) => t.id === g.finding) ? [[g.finding, g.title || g.finding] as const] : [])]} acts={(value) => put(g.n, 'finding', value)} />
                  {g.finding === '' && <ChoiceField id={`${id}-class`} words={`${of}, between`} record shown={g.class_} choices={choices('class_')} acts={(value) => put(g.n, 'class_', value)} />}
                  <ChoiceField id={`${id}-kind`} words={`${of}, kind of reading`} record shown={g.kind} choices={choices('kind')} acts={(value) => put(g.n, 'kind', value)} />
                </td>
                <td className="mono">
                  {shown(g.predicted)} {g.predicted_pm ? `± ${shown(g.predicted_pm)}` : ''}
                </td>
                <td>
                  {g.lapsed && <s className="mono soft">{g.measured}</s>}
                  <FigureField id={id} label={`${name}, read, mm`} shown={g.lapsed ? '' : (g.measured ?? '')} kind="length" unit="mm" className={`cell ${g.measured ? '' : 'none'}`} mayClear acts={(typed) => [{ do: 'cell', list: GAPS, of: fit.n, row: g.n, field: 'measured', typed: typed || null }]} />
                </td>
                <td className={g.lapsed ? 'tight' : (f?.verdict ?? '')}>{g.lapsed ? `lapsed: ${g.lapsed.event}` : f ? SAYS[f.verdict] : ''}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <Button variant="outlined" onClick={once(() => void change([{ do: 'add', list: GAPS, of: fit.n, row: {} }], `${fit.name}: a gap of its own added to ${state.document.name}`))}>
        Add a gap of its own
      </Button>
    </div>
  )
}

/** Trial fits: predicted and measured side by side, in a stated attitude. */
export function Fits() {
  const { state, assessment, catalogue, change } = useBuild()
  const [name, setName] = useState('')
  const [on, setOn] = useState('')
  const tight = assessment.findings.filter(worthReading(gapsOf(catalogue))).sort((a, b) => (a.margin ?? 0) - (b.margin ?? 0)).slice(0, 6)
  const begin = async () => {
    const gaps = tight.map((f) => ({ finding: f.id, title: f.title, predicted: f.value, predicted_pm: f.value_pm })).map((g, i) => ({ n: i + 1, ...g }))
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
      {state.document.fits.map((fit) => (
        <OneFit key={fit.n} fit={fit} />
      ))}
    </section>
  )
}

/** What is there for now. */
export function Items() {
  return <RowsEditor listKey="provisional" open />
}

/** The ledger of money. */
export function MoneyLines() {
  return <RowsEditor listKey="money" open fresh={{ state: 'planned' }} />
}
