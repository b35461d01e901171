import { useState } from 'react'
import { useBuild, useTrial } from '../shell/buildContext'
import { useVisit } from '../shell/visit'
import { STEPS, stepNow } from './steps'
import './guide.css'

/** A first build in ten minutes, beside the work: it sees by itself what was done, and can be skipped, left and begun again. */
export function Guide({ close }: { close: () => void }) {
  const { state, assessment, dimension } = useBuild()
  const trial = useTrial()
  const visit = useVisit()
  const [skipped, skip] = useState<ReadonlySet<string>>(new Set())
  const at = stepNow({ document: state.document, assessment, trying: trial !== null }, skipped)
  const step = STEPS[at]
  const print = () => window.open(`/api/builds/${state.id}/sheets/stack.pdf`, '_blank')
  return (
    <aside className="guide" aria-label="Guided first build">
      <div className="panelhead">
        <h2>
          Guide <span className="soft mono">{Math.min(at + 1, STEPS.length)} of {STEPS.length}</span>
        </h2>
        <button type="button" className="plainbutton" onClick={close}>
          Leave it
        </button>
      </div>
      {step === undefined ? (
        <>
          <p role="status">
            <b>That was a first build.</b> A sheet of it goes to the bench; Alt P prints the station that is shown.
          </p>
          <button type="button" className="plainbutton main" onClick={print}>
            The sheet of Stack
          </button>
        </>
      ) : (
        <div data-step={step.key}>
          <p role="status">
            <b>{step.title}.</b> {step.say}
          </p>
          {step.type && (
            <ul className="plain">
              {step.type.map(([key, typed]) => (
                <li key={key}>
                  {dimension(key)?.name ?? key}: <kbd>{typed}</kbd>
                </li>
              ))}
            </ul>
          )}
          <div className="guideacts">
            {step.at !== undefined && (
              <button type="button" className="plainbutton main" onClick={() => visit(step.at ?? '', 'stack')}>
                Take me there
              </button>
            )}
            <button type="button" className="quiet" onClick={() => skip(new Set([...skipped, step.key]))}>
              skip this step
            </button>
            {skipped.size > 0 && (
              <button type="button" className="quiet" onClick={() => skip(new Set())}>
                what was skipped
              </button>
            )}
          </div>
        </div>
      )}
    </aside>
  )
}
