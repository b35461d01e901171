import Button from '@mui/material/Button'
import { useState } from 'react'
import type { BoardData, RowState, Step } from '../../api/types'
import { Tabs } from '../../board/Tabs'
import { putAt } from '../../entry/acts'
import { once } from '../../entry/hands'
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

const SHUT = ['waits', 'blocked']

/** What a step waits for, by name; the first of several. */
function waitsFor(state: RowState, nameOf: (n: number) => string): string {
  const [first, ...more] = state.waits_for.map((n) => (state.no_hold.includes(n) ? `the hold of ${nameOf(n)}` : nameOf(n)))
  return `waits for ${first ?? ''}${more.length > 0 ? ` and ${more.length} more` : ''}`
}

function StepRow({ step, state }: { step: Step; state: RowState }) {
  const { change, catalogue, state: at } = useBuild()
  const nameOf = (n: number) => `“${at.document.steps.find((s) => s.n === n)?.name || `step ${n}`}”`
  const named = (numbers: readonly number[]) => numbers.map(nameOf).join(', ')
  const [open, setOpen] = useState(false)
  const [asBuilt, setAsBuilt] = useState(step.as_built)
  const [by, setBy] = useState(step.by)
  const [reason, setReason] = useState(step.reason)
  const [until, setUntil] = useState(step.until)
  const [leaving, setLeaving] = useState(false)
  const [wrong, setWrong] = useState('')
  const outOfOrder = SHUT.includes(state.status)
  // What a step wants before it may close is the core's to say: its answer stands here, and what was typed stays.
  const close = async (to: 'open' | 'done' | 'left out') => {
    const said = to === 'done' && !outOfOrder ? { reason: '', until: '' } : { reason, until: to === 'left out' ? until : '' }
    const refused = await change([{ do: 'step', n: step.n, state: to, as_built: asBuilt, by, ...said }], `step ${step.n} ${to}: ${step.name}`)
    setWrong(refused ?? '')
    if (refused === null) setLeaving(false)
  }
  const watched = step.watches.map((w) => catalogue.questions.find((q) => q.key === w)?.name ?? w)
  const more = [step.helpers > 0 ? `${step.helpers + 1} people` : 'alone', step.tools].filter(Boolean).join(' · ')
  return (
    <li className={`step ${state.status.replace(' ', '-')} ${step.hold ? 'hold' : ''}`} data-step={step.n} data-status={state.status}>
      <button type="button" className="stephead" aria-expanded={open} onClick={() => setOpen(!open)}>
        <span className="mono stepno">{step.n}</span>
        <span className="stepname">
          {step.name}
          {step.hold && <span className="condition">hold point</span>}
          {step.gate && <span className="condition">gate: {step.gate}</span>}
          {step.state === 'left out' && <span className="condition">left out by {step.by}</span>}
          {step.state === 'done' && step.reason && <span className="condition">out of order</span>}
        </span>
        <span className="stepstatus">{state.status === 'waits' ? waitsFor(state, nameOf) : state.status}</span>
      </button>
      {state.against.length > 0 && step.state === 'open' && <p className="stepblocked">Shut by: {state.against.slice(0, open ? 40 : 3).join('; ')}{!open && state.against.length > 3 ? `; ${state.against.length - 3} more` : ''}</p>}
      {open && (
        <div className="stepbody">
          <p className="soft">{more}</p>
          {step.caution && <p className="caution">Caution: {step.caution}</p>}
          {step.hides.length > 0 && <p>Hides the work of {named(step.hides)}.</p>}
          {step.needs_hold.length > 0 && <p>Tightened against the hold of {named(step.needs_hold)}.</p>}
          {watched.length > 0 && <p className="soft">Watches: {watched.join(', ')}.</p>}
          {step.lapsed && <p className="tight">To be passed again: {step.lapsed.event}.</p>}
          {step.state === 'open' ? (
            <div className="options">
              {step.asks && (
                <label className="field note">
                  As built: {step.asks}
                  <input value={asBuilt} onChange={(e) => setAsBuilt(e.target.value)} maxLength={2000} />
                </label>
              )}
              <label className="field">
                {step.hold || step.gate ? 'Signed by' : 'By'}
                <input value={by} onChange={(e) => setBy(e.target.value)} maxLength={200} />
              </label>
              {(outOfOrder || leaving) && (
                <label className="field note">
                  {leaving ? 'Why it is left out' : 'Why out of order'}
                  <input value={reason} onChange={(e) => setReason(e.target.value)} maxLength={2000} />
                </label>
              )}
              {leaving && (
                <label className="field">
                  Until
                  <input value={until} onChange={(e) => setUntil(e.target.value)} type="date" />
                </label>
              )}
              {!leaving && (
                <Button variant={outOfOrder ? 'outlined' : 'contained'} onClick={once(() => void close('done'))}>
                  {outOfOrder ? 'Done out of order' : 'Done'}
                </Button>
              )}
              <Button variant="outlined" onClick={once(() => (leaving ? void close('left out') : setLeaving(true)))}>
                {leaving ? 'Leave it out' : 'Leave out'}
              </Button>
              {leaving && (
                <Button variant="text" onClick={() => setLeaving(false)}>
                  Not so
                </Button>
              )}
            </div>
          ) : (
            <p>
              {step.as_built && <>As built: {step.as_built}. </>}
              {step.by && <>By {step.by}. </>}
              {step.reason && <>{step.state === 'left out' ? 'Left out' : 'Out of order'}: {step.reason}. </>}
              {step.until && <>Until {step.until}. </>}
              <button type="button" className="quiet" onClick={() => void close('open')}>
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
      <Button variant="contained" onClick={() => void change([putAt('/steps', catalogue.templates[kind])], `steps laid out: ${kind}`)}>
        Lay out the steps
      </Button>
    </div>
  )
}

/** The build's own steps: what can be done today, what holds. */
export function StepList({ board }: { board: BoardData | undefined }) {
  const { state } = useBuild()
  const rows = board?.row_states ?? []
  const [filter, setFilter] = useState<Filter>('can do')
  const steps = state.document.steps
  const states = new Map(rows.map((s) => [s.n, s]))
  const today = rows.filter((s) => s.status === 'can do').length
  const fits = (step: Step, status: string) => filter === 'all' || (filter === 'can do' ? status === 'can do' : step.state === 'left out' || step.hold || step.gate !== '')
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
                {steps.map((step) => {
                  const one = states.get(step.n)
                  return one && fits(step, one.status) ? <StepRow key={step.n} step={step} state={one} /> : null
                })}
              </ol>
            )}
            {filter === 'can do' && today === 0 && <p className="empty">Nothing can be done today: see what the hold points wait for.</p>}
          </>
        )}
      </section>
      <RowsEditor listKey="steps" words="links, helpers, tools" without={['state', 'as_built', 'by', 'reason', 'until', 'lapsed', 'at']} />
    </>
  )
}

/** The joints below their tightening table. */
export function Joints() {
  return <RowsEditor listKey="joints" />
}
