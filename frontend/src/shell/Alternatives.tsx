import Dialog from '@mui/material/Dialog'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import { useQueries } from '@tanstack/react-query'
import { api } from '../api/client'
import { differing } from '../api/changed'
import type { Finding, Verdict } from '../api/types'
import { written } from '../api/units'
import { actsOf, type Alternative } from '../entry/desk'
import { useDesk, useDeskPart } from '../entry/useDesk'
import { worstFirst } from '../findings/order'
import { VerdictGlyph } from '../findings/VerdictGlyph'
import { useBuild } from './buildContext'
import './shell.css'

const VERDICTS: readonly Verdict[] = ['fouls', 'tight', 'unmeasured', 'goes']
const MOST_TOLD = 6

function Counts({ findings }: { findings: readonly Finding[] }) {
  return VERDICTS.map((v) => (
    <span key={v} className="trialvalue">
      <VerdictGlyph verdict={v} small /> <span className="mono">{findings.filter((f) => f.verdict === v).length}</span>
    </span>
  ))
}

/** Trials that were set aside, side by side with the build as it stands: what each changes, what stands then, what turns. */
export default function Alternatives({ close }: { close: () => void }) {
  const { state, dimension, system } = useBuild()
  const desk = useDesk()
  const aside = useDeskPart(desk, (s) => s.aside)
  const answers = useQueries({
    queries: aside.map(({ name, trial }) => {
      const acts = actsOf(trial, (key) => dimension(key)?.unit ?? '')
      return { queryKey: ['aside', state.id, state.tag, name, JSON.stringify(acts)], queryFn: () => api.trial(state.id, acts, '') }
    }),
  })
  const changes = ({ trial }: Alternative) => [...trial.parts.map((p) => `${p.words} ${p.text}`), ...Object.entries(trial.values).map(([key, value]) => `${dimension(key)?.name ?? key} ${written(value, dimension(key)?.kind ?? 'length', system)}`)]
  const stood = new Map(state.assessment.findings.map((f) => [f.id, f.verdict]))
  return (
    <Dialog open onClose={close} maxWidth="lg" aria-labelledby="alternatives-title">
      <DialogTitle id="alternatives-title">Trials that were set aside</DialogTitle>
      <DialogContent>
        {aside.length === 0 && <p>None yet: try something, then set it aside under a name.</p>}
        <div className="tablescroll">
          <table className="alternatives">
            <thead>
              <tr>
                <th scope="col">as it stands</th>
                {aside.map((a) => (
                  <th key={a.name} scope="col">
                    {a.name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              <tr>
                <td>
                  <Counts findings={state.assessment.findings} />
                </td>
                {aside.map((a, i) => {
                  const answer = answers[i]
                  const found = answer?.data ? differing(state.assessment, answer.data).findings : null
                  const turned = found === null ? [] : worstFirst(found.filter((f) => f.verdict !== stood.get(f.id)))
                  return (
                    <td key={a.name}>
                      {answer?.isError && <p role="alert">{answer.error.message}</p>}
                      {found === null ? !answer?.isError && 'working it out' : <Counts findings={found} />}
                      <ul className="plain">
                        {changes(a).map((c) => (
                          <li key={c}>{c}</li>
                        ))}
                      </ul>
                      <ul className="plain">
                        {turned.slice(0, MOST_TOLD).map((f) => (
                          <li key={f.id}>
                            <VerdictGlyph verdict={f.verdict} small /> {f.title}
                          </li>
                        ))}
                        {turned.length > MOST_TOLD && <li className="soft">and {turned.length - MOST_TOLD} more turn</li>}
                      </ul>
                      <div className="actions">
                        <button
                          type="button"
                          className="plainbutton main"
                          onClick={() => {
                            desk.takeUp(a.name)
                            close()
                          }}
                        >
                          Take it up
                        </button>
                        <button type="button" className="plainbutton" onClick={() => desk.forgetAside(a.name)}>
                          Let it go
                        </button>
                      </div>
                    </td>
                  )
                })}
              </tr>
            </tbody>
          </table>
        </div>
      </DialogContent>
    </Dialog>
  )
}
