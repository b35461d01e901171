import { lazy, Suspense, useState } from 'react'
import type { Ripple } from '../api/types'
import { written } from '../api/units'
import { useDesk } from '../entry/useDesk'
import { useBuild, type Trial } from './buildContext'
import { openFinding } from './looked'
import './shell.css'

const RippleView = lazy(() => import('./RippleView'))

/** What the trial changes: entries in the words of their fields, then figures that were dragged. */
function Changes({ trial }: { trial: Trial }) {
  const { state, dimension, system } = useBuild()
  return (
    <>
      {trial.parts.map((p) => (
        <span key={p.key} className="trialvalue">
          {p.words} <span className="mono">{`${p.was || 'nothing'} → ${p.text || 'nothing'}`}</span>
        </span>
      ))}
      {Object.entries(trial.values).map(([key, value]) => {
        const d = dimension(key)
        const old = state.assessment.quantities[key]?.value
        return (
          <span key={key} className="trialvalue">
            {d?.name}{' '}
            <span className="mono">
              {old == null ? 'nothing' : written(old, d?.kind ?? 'length', system)} → {written(value, d?.kind ?? 'length', system)}
            </span>
          </span>
        )
      })}
    </>
  )
}

/** The worst thing that a trial turns, in a few words. */
function Worst({ ripple }: { ripple: Ripple }) {
  const order = ['fouls', 'tight', 'unmeasured', 'new', 'gone', 'goes']
  const worse = ripple.turns.filter((t) => t.worse).sort((a, b) => order.indexOf(a.after) - order.indexOf(b.after))
  const turn = worse[0] ?? ripple.turns[0]
  if (turn === undefined) return <span className="trialworst soft">no finding turns</span>
  const others = ripple.turns.length - 1
  return (
    <button type="button" className="turnline trialworst" onClick={() => openFinding(turn.id)}>
      {turn.title}: {turn.before} → <b className={turn.after}>{turn.after === 'gone' ? 'cleared' : turn.after}</b>
      {others > 0 && <span className="soft"> and {others} more</span>}
    </button>
  )
}

/**
 * The trial, in one slim line that stands where the question stood, so that nothing under the pointer moves:
 * what it changes and the worst that it turns. Everything else that it touches opens below it.
 */
export function TrialLine({ trial }: { trial: Trial }) {
  const { keep, drop, saving } = useBuild()
  const [open, setOpen] = useState(false)
  const [naming, setNaming] = useState(false)
  const desk = useDesk()
  const ripple = trial.result?.ripple
  return (
    <section className="trialbar" aria-label="Trial">
      <div className="trialline">
        <b>Trial, not saved</b>
        <span className="trialwords">
          {trial.why && <span className="tight">{trial.why} </span>}
          <Changes trial={trial} />
        </span>
        {trial.moving ? <span className="trialworst soft">the other questions follow when the hand rests</span> : ripple && <Worst ripple={ripple} />}
        {ripple && (
          <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? 'less' : 'what it touches'}
          </button>
        )}
        <button type="button" className="plainbutton main" onClick={() => void keep()} disabled={saving}>
          Keep <kbd>Alt K</kbd>
        </button>
        <button type="button" className="plainbutton" onClick={drop}>
          Drop <kbd>Esc</kbd>
        </button>
        <button type="button" className="plainbutton" aria-expanded={naming} onClick={() => setNaming(!naming)}>
          Set aside
        </button>
      </div>
      {naming && (
        <form
          className="naming"
          onSubmit={(e) => {
            e.preventDefault()
            const name = new FormData(e.currentTarget).get('name')
            if (typeof name === 'string' && name.trim() !== '') desk.setAside(name.trim().slice(0, 60))
          }}
        >
          <label className="field">
            Its name
            <input name="name" autoFocus maxLength={60} required />
          </label>
          <button type="submit" className="plainbutton main">
            Set it aside
          </button>
        </form>
      )}
      {(open || trial.why !== '') && ripple && (
        <Suspense fallback={null}>
          <RippleView ripple={ripple} />
        </Suspense>
      )}
    </section>
  )
}
