import Button from '@mui/material/Button'
import { useState } from 'react'
import type { RowState, Step } from '../../api/types'
import { once } from '../../entry/hands'
import { useBuild } from '../../shell/buildContext'
import { useLooked } from '../../shell/looked'
import { Pinned } from '../../photos/Pinned'
import { ShutBy } from './ShutBy'
import './assemble.css'

const SHUT = ['waits', 'blocked']

/** What a step waits for, by name; the first of several. */
function waitsFor(state: RowState, nameOf: (n: number) => string): string {
  const [first, ...more] = state.waits_for.map((n) => (state.no_hold.includes(n) ? `the hold of ${nameOf(n)}` : nameOf(n)))
  return `waits for ${first ?? ''}${more.length > 0 ? ` and ${more.length} more` : ''}`
}

export function StepRow({ step, state }: { step: Step; state: RowState }) {
  const { change, catalogue, state: at } = useBuild()
  const nameOf = (n: number) => `“${at.document.steps.find((s) => s.n === n)?.name || `step ${n}`}”`
  const named = (numbers: readonly number[]) => numbers.map(nameOf).join(', ')
  // Somebody who was led here sees it opened.
  const led = useLooked((l) => l.visited === `steps.${step.n}`)
  const [chosen, setOpen] = useState<boolean | null>(null)
  const open = chosen ?? led
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
      <button id={`steps-${step.n}`} type="button" className="stephead" aria-expanded={open} onClick={() => setOpen(!open)}>
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
      {state.against.length > 0 && step.state === 'open' && <ShutBy against={state.against} open={open} />}
      {open && (
        <div className="stepbody">
          <p className="soft">{more}</p>
          {step.caution && <p className="caution">Caution: {step.caution}</p>}
          {step.hides.length > 0 && <p>Hides the work of {named(step.hides)}.</p>}
          {step.needs_hold.length > 0 && <p>Tightened against the hold of {named(step.needs_hold)}.</p>}
          {watched.length > 0 && <p className="soft">Watches: {watched.join(', ')}.</p>}
          {step.lapsed && <p className="tight">To be passed again: {step.lapsed.event}.</p>}
          <Pinned address={`steps.${step.n}`} of={`step ${step.n}`} />
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
