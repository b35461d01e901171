import Button from '@mui/material/Button'
import { useState } from 'react'
import type { BoardData, Step } from '../../api/types'
import { Tabs } from '../../board/Tabs'
import { putAt } from '../../entry/acts'
import { RowsEditor } from '../../rows/RowsEditor'
import { useBuild } from '../../shell/buildContext'
import { useLooked } from '../../shell/looked'
import { Links } from './Links'
import { StepRow } from './StepRow'
import './assemble.css'

const FILTERS = [
  ['can do', 'Can do today'],
  ['all', 'All steps'],
  ['blocked', 'Hold points'],
  ['links', 'Links'],
] as const
type Filter = (typeof FILTERS)[number][0]

/** Steps of the trade for this kind of build and its way in, which are then the build's own; what is done or left out stays as it is. */
function LayOut() {
  const { catalogue, state, change } = useBuild()
  const { options, steps } = state.document
  const kinds = Object.keys(catalogue.templates)
  const said = options['build_type'] ?? ''
  const [kind, setKind] = useState(kinds.includes(said) ? said : (kinds[0] ?? ''))
  const ways = Object.keys(catalogue.templates[kind] ?? {})
  const way = ways.find((w) => w === options['way_in']) ?? ways[0] ?? ''
  const layOut = () => {
    const kept = steps.filter((s) => s.state !== 'open')
    const couplings = catalogue.templates[kind]?.[way] ?? {}
    const coupling = options['coupling'] ?? ''
    const fresh = couplings[coupling] ?? couplings[''] ?? []
    const all = [...kept.filter((s) => !fresh.some((f) => f.n === s.n)), ...fresh.map((f) => kept.find((s) => s.n === f.n) ?? f)]
    void change([putAt('/steps', all), putAt('/laid_out', { kind, way, coupling })], `steps laid out: ${kind}, ${way}`)
  }
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
      <span className="soft">{options['way_in'] ? `goes in ${way}` : `goes in ${way}, while nobody has said otherwise`}</span>
      <Button variant="contained" onClick={layOut}>
        {steps.length === 0 ? 'Lay out the steps' : 'Lay out the open steps anew'}
      </Button>
    </div>
  )
}

/** The build's own steps: what can be done today, what holds. */
export default function StepList({ board }: { board: BoardData | undefined }) {
  const { state, assessment } = useBuild()
  const rows = board?.row_states ?? []
  const [filter, setFilter] = useState<Filter>('can do')
  const steps = state.document.steps
  const states = new Map(rows.map((s) => [s.n, s]))
  const today = rows.filter((s) => s.status === 'can do').length
  const led = useLooked((l) => l.visited)
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
            {assessment.findings.some((f) => f.id === 'assemble.laid_out') && <LayOut />}
            <div className="steptools">
              <Tabs label="Which steps" names={FILTERS} chosen={filter} choose={setFilter} />
            </div>
            {filter === 'links' ? (
              <Links steps={steps} states={states} />
            ) : (
              <ol className="plain steps">
                {steps.map((step) => {
                  const one = states.get(step.n)
                  return one && (fits(step, one.status) || led === `steps.${step.n}`) ? <StepRow key={step.n} step={step} state={one} /> : null
                })}
              </ol>
            )}
            {filter === 'can do' && today === 0 && <p className="empty">Nothing can be done today: see what the hold points wait for.</p>}
          </>
        )}
      </section>
      <RowsEditor listKey="steps" led={false} words="links, helpers, tools" without={['state', 'as_built', 'by', 'reason', 'until', 'lapsed', 'at']} />
    </>
  )
}
