import type { RowState } from '../../api/types'
import { useBuild } from '../../shell/buildContext'
import { openFinding } from '../../shell/looked'
import { useGo, useVisit } from '../../shell/visit'
import './assemble.css'

type Against = RowState['against'][number]

/** What to do about what stands against a step, the most pressing first. */
const TODO = [
  ['put right', 'Put right'],
  ['cure', 'Cure'],
  ['measure', 'Measure'],
  ['do first', 'Do first'],
  ['fit', 'Fit'],
  ['close', 'Close'],
] as const

/** What shuts a step, grouped by what to do; each leads to where it is done. */
export function ShutBy({ against, open }: { against: readonly Against[]; open: boolean }) {
  const { assessment } = useBuild()
  const go = useGo()
  const visit = useVisit()
  const groups = TODO.map(([todo, words]) => ({ words, these: against.filter((a) => a.todo === todo) })).filter((g) => g.these.length > 0)
  const lead = (one: Against) => {
    const finding = assessment.findings.find((f) => f.id === one.finding)
    if (finding === undefined) visit(one.row)
    else {
      go(finding.station, finding.question)
      openFinding(finding.id)
    }
  }
  if (!open) return <p className="stepblocked">Shut: {groups.map((g) => `${g.these.length} to ${g.words.toLowerCase()}`).join(', ')}</p>
  return (
    <div className="shutby">
      {groups.map((g) => (
        <section key={g.words} aria-label={`To ${g.words.toLowerCase()}`}>
          <h3>
            {g.words} <span className="mono soft">{g.these.length}</span>
          </h3>
          <ul className="plain">
            {g.these.map((one, i) => (
              <li key={i}>
                {one.finding || one.row ? (
                  <button type="button" className="turnline" onClick={() => lead(one)}>
                    {one.text}
                  </button>
                ) : (
                  one.text
                )}
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  )
}
