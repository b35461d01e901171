import Button from '@mui/material/Button'
import { useState } from 'react'
import type { Step, StepState } from '../../api/types'
import { figure } from '../../api/units'
import { Tabs } from '../../board/Tabs'
import { Ledger } from '../../ledger/Ledger'
import { RowsEditor } from '../../rows/RowsEditor'
import { useBuild } from '../../shell/buildContext'
import { Links } from './Links'

const FILTERS = [
  ['can do', 'Can do today'],
  ['all', 'All steps'],
  ['blocked', 'Hold points'],
  ['links', 'Links'],
] as const
type Filter = (typeof FILTERS)[number][0]

function StepRow({ step, state, index }: { step: Step; state: StepState; index: number }) {
  const { change } = useBuild()
  const [open, setOpen] = useState(false)
  const [asBuilt, setAsBuilt] = useState(step.as_built)
  const [by, setBy] = useState(step.by)
  const [wrong, setWrong] = useState('')
  const at = `/steps/${index}`
  const close = async () => {
    if (step.asks !== '' && asBuilt.trim() === '') {
      setWrong(`Write it down first: ${step.asks}.`)
      return
    }
    if (step.hold && by.trim() === '') {
      setWrong('A hold point is signed with a name.')
      return
    }
    const ops = [
      { op: 'add' as const, path: `${at}/state`, value: 'done' },
      { op: 'add' as const, path: `${at}/as_built`, value: asBuilt.trim() },
      { op: 'add' as const, path: `${at}/by`, value: by.trim() },
      { op: 'add' as const, path: `${at}/at`, value: new Date().toISOString() },
    ]
    setWrong((await change(ops, `step ${step.n} done: ${step.name}`)) ?? '')
  }
  const set = (value: 'open' | 'left out') => void change([{ op: 'add', path: `${at}/state`, value }], `step ${step.n} ${value}: ${step.name}`)
  const more = [step.helpers > 0 ? `${step.helpers + 1} people` : 'alone', step.tools].filter(Boolean).join(' · ')
  return (
    <li className={`step ${state.status.replace(' ', '-')} ${step.hold ? 'hold' : ''}`} data-step={step.n} data-status={state.status}>
      <button type="button" className="stephead" aria-expanded={open} onClick={() => setOpen(!open)}>
        <span className="mono stepno">{step.n}</span>
        <span className="stepname">
          {step.name}
          {step.hold && <span className="condition">hold point</span>}
          {step.gate && <span className="condition">gate: {step.gate}</span>}
        </span>
        <span className="stepstatus">{state.status === 'waits' ? `waits for ${state.waits_for.map((n) => (state.no_hold.includes(n) ? `the hold of ${n}` : n)).join(', ')}` : state.status}</span>
      </button>
      {state.blocked_by.length > 0 && step.state === 'open' && <p className="stepblocked">Shut by: {state.blocked_by.slice(0, open ? 40 : 3).join('; ')}{!open && state.blocked_by.length > 3 ? `; ${state.blocked_by.length - 3} more` : ''}</p>}
      {open && (
        <div className="stepbody">
          <p className="soft">{more}</p>
          {step.caution && <p className="caution">Caution: {step.caution}</p>}
          {step.hides.length > 0 && <p>Hides the work of step {step.hides.join(', ')}.</p>}
          {step.needs_hold.length > 0 && <p>Tightened against the hold of step {step.needs_hold.join(', ')}.</p>}
          {step.state === 'open' ? (
            <div className="options">
              {step.asks && (
                <label className="field note">
                  As built: {step.asks}
                  <input value={asBuilt} onChange={(e) => setAsBuilt(e.target.value)} maxLength={2000} />
                </label>
              )}
              <label className="field">
                {step.hold ? 'Signed by' : 'By'}
                <input value={by} onChange={(e) => setBy(e.target.value)} maxLength={200} />
              </label>
              <Button variant="contained" disabled={state.status === 'waits' || state.status === 'blocked'} onClick={() => void close()}>
                Done
              </Button>
              <Button variant="outlined" onClick={() => set('left out')}>
                Leave out
              </Button>
            </div>
          ) : (
            <p>
              {step.as_built && <>As built: {step.as_built}. </>}
              {step.by && <>By {step.by}. </>}
              <button type="button" className="quiet" onClick={() => set('open')}>
                open it again
              </button>
            </p>
          )}
          {wrong && (
            <p role="alert" className="fouls">
              {wrong}
            </p>
          )}
        </div>
      )}
    </li>
  )
}

/** Steps of the trade for this kind of build, chosen once and then the build's own. */
function LayOut() {
  const { catalogue, state, change } = useBuild()
  const kinds = Object.keys(catalogue.templates)
  const said = state.document.options['build_type'] ?? ''
  const [kind, setKind] = useState(kinds.includes(said) ? said : (kinds[0] ?? ''))
  return (
    <div className="options">
      <label className="field">
        Kind of build
        <select value={kind} onChange={(e) => setKind(e.target.value)}>
          {kinds.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </select>
      </label>
      <Button variant="contained" onClick={() => void change([{ op: 'add', path: '/steps', value: catalogue.templates[kind] }], `steps laid out: ${kind}`)}>
        Lay out the steps
      </Button>
    </div>
  )
}

function Tightening() {
  const { boards, system } = useBuild()
  if (boards.tightening.length === 0) return null
  return (
    <section aria-label="Tightening">
      <div className="panelhead">
        <h2>Tightening</h2>
        <span className="soft">torque belongs to bolt, coating and lubricant together</span>
      </div>
      <div className="tablescroll" tabIndex={0}>
        <table>
          <thead>
            <tr>
              <th>joint</th>
              <th>order</th>
              <th>stages, {system === 'in' ? 'lbf·ft' : 'N·m'}</th>
              <th>state</th>
              <th>source</th>
            </tr>
          </thead>
          <tbody>
            {boards.tightening.map((t) => (
              <tr key={t.n}>
                <th scope="row">{t.name}</th>
                <td className="mono">{t.order.join(' ')}</td>
                <td className="mono">{t.stages_nm.map((x) => figure(x, 'torque', system)).join(' · ') || 'none'}</td>
                <td>{t.state}</td>
                <td className="soft">
                  {t.source}
                  {t.note && <span className="tight"> {t.note}</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

function Screws() {
  const { boards, system } = useBuild()
  const [open, setOpen] = useState(false)
  if (boards.screws.length === 0) return null
  const shown = (v: number | null | undefined) => (v == null ? '' : figure(v, 'length', system, 1))
  return (
    <section aria-label="Screws by hole">
      <div className="panelhead">
        <h2>Screws by hole</h2>
        <span className="soft">from plate, recess and engagement</span>
        <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'close the list' : `open ${boards.screws.length} screws`}
        </button>
      </div>
      {open && (
        <div className="tablescroll" tabIndex={0}>
          <table>
            <thead>
              <tr>
                <th>hole</th>
                <th>screw</th>
                <th>grip</th>
                <th>least length</th>
                <th>stock, mm</th>
                <th>note</th>
              </tr>
            </thead>
            <tbody>
              {boards.screws.map((s) => (
                <tr key={s.hole}>
                  <th scope="row" className="mono">
                    {s.hole}
                  </th>
                  <td>{s.what}</td>
                  <td className="mono">{shown(s.grip)}</td>
                  <td className="mono">{shown(s.least)}</td>
                  <td className="mono">{s.stock ?? ''}</td>
                  <td>{s.note || (s.washer ? `washers ${shown(s.washer)}` : '')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}

/** Assemble: the build's own steps, what can be done today, what holds; tightening and screws. */
export function Assemble() {
  const { state, boards } = useBuild()
  const [filter, setFilter] = useState<Filter>('can do')
  const steps = state.document.steps
  const states = new Map(boards.steps.map((s) => [s.n, s]))
  const today = boards.steps.filter((s) => s.status === 'can do').length
  const fits = (step: Step, status: string) => filter === 'all' || (filter === 'can do' ? status === 'can do' : step.hold || step.gate !== '')
  return (
    <>
      <section aria-label="Steps">
        <div className="panelhead">
          <h2>Steps</h2>
          <span className="soft">
            {steps.filter((s) => s.state === 'done').length} of {steps.length} done, {today} can be done today
          </span>
        </div>
        {steps.length === 0 ? (
          <LayOut />
        ) : (
          <>
            <div className="steptools">
              <Tabs label="Which steps" names={FILTERS} chosen={filter} choose={setFilter} />
            </div>
            {filter === 'links' ? (
              <Links steps={steps} states={states} />
            ) : (
              <ol className="plain steps">
                {steps.map((step, i) => {
                  const one = states.get(step.n)
                  return one && fits(step, one.status) ? <StepRow key={step.n} step={step} state={one} index={i} /> : null
                })}
              </ol>
            )}
            {filter === 'can do' && today === 0 && <p className="empty">Nothing can be done today: see what the hold points wait for.</p>}
          </>
        )}
      </section>
      <Tightening />
      <RowsEditor listKey="joints" />
      <Screws />
      <RowsEditor listKey="steps" words="links, helpers, tools" without={['state', 'as_built', 'by']} />
      <Ledger station="assemble" />
    </>
  )
}
