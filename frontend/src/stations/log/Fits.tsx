import Button from '@mui/material/Button'
import { useState } from 'react'
import type { Act, Build, Catalogue, Finding } from '../../api/types'
import { figure, unitOf } from '../../api/units'
import { ChoiceField } from '../../entry/ChoiceField'
import { FigureField } from '../../entry/FigureField'
import { once } from '../../entry/hands'
import { WordsField } from '../../entry/WordsField'
import { useBuild } from '../../shell/buildContext'
import './log.css'

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
export default function Fits() {
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
