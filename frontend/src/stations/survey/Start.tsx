import { written } from '../../api/units'
import { putAt } from '../../entry/acts'
import { WordsField } from '../../entry/WordsField'
import { VerdictGlyph } from '../../findings/VerdictGlyph'
import { useBuild } from '../../shell/buildContext'
import { openPanel, startRun } from '../../shell/looked'
import { stationName } from '../../shell/StationRail'
import { useVisit } from '../../shell/visit'
import { AboutBuild } from './AboutBuild'
import { NextTable } from './NextTable'
import { Sketch } from './Sketch'
import './survey.css'

const TO_THE_BENCH = 6
const DAY_MS = 86_400_000
const VERDICTS = ['fouls', 'tight', 'unmeasured', 'goes'] as const
const checkDay = (text: string) => (text === '' || (/^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text))) ? '' : `“${text}” is no day: 2026-12-31.`)

/** The day that the hoist is hired for, and how long it is until then. */
function HoistDay() {
  const { state, assessment } = useBuild()
  const stands = assessment.findings.find((f) => f.id === 'survey.start.hoist')?.verdict
  const day = state.document.hoist_on
  const left = day === '' ? null : Math.ceil((Date.parse(day) - Date.now()) / DAY_MS)
  return (
    <label className="field hoistday">
      Hoist day, as 2026-12-31
      <WordsField id="about-hoist" words="Hoist day" labelled shown={day} check={checkDay} maxLength={10} acts={(text) => [putAt('/hoist_on', text)]} />
      {left !== null && <span className={stands ?? 'soft'}>{left < 0 ? `${-left} days ago` : left === 0 ? 'today' : `${left} days left`}</span>}
    </label>
  )
}

/** What stands and what is open, station by station. */
function Stands() {
  const { assessment } = useBuild()
  const count = (verdict: (typeof VERDICTS)[number]) => assessment.findings.filter((f) => f.verdict === verdict).length
  return (
    <p className="stands">
      {VERDICTS.map((v) => (
        <span key={v}>
          <VerdictGlyph verdict={v} small /> <span className="mono">{count(v)}</span> {v === 'goes' ? 'go' : v === 'fouls' ? 'foul' : v}
        </span>
      ))}
      <button type="button" className="quiet" onClick={() => openPanel('open')}>
        {assessment.opens.length} open until a gate
      </button>
    </p>
  )
}

/** The readings that settle most now: what to bring to the bench for them, and why. */
function ToTheBench() {
  const { assessment, system } = useBuild()
  const visit = useVisit()
  const next = assessment.next.slice(0, TO_THE_BENCH)
  const tools = [...new Set(next.map((n) => n.tool).filter(Boolean))]
  return (
    <section aria-label="To the bench now">
      <div className="panelhead">
        <h2>To the bench now</h2>
        <span className="soft">{tools.length > 0 ? `bring: ${tools.join(', ')}` : 'nothing that is measured now would turn a finding'}</span>
        <button type="button" className="quiet" onClick={startRun}>
          run <kbd>Alt M</kbd>
        </button>
      </div>
      <ol className="plain tothebench">
        {next.map((n) => (
          <li key={n.address}>
            <button type="button" className="quiet" onClick={() => visit(n.address, n.station)}>
              {n.letter && <span className="letter">{n.letter}</span>} {n.name}
            </button>
            <span className="soft">{stationName(n.station)}</span>
            <b>
              {n.tool || 'paper of the maker'}
              {n.pm_wanted == null ? '' : `, to ± ${written(n.pm_wanted, n.kind, system, n.pm_wanted)}`}
            </b>
            <span>{n.how}</span>
            <Sketch question={n.question} address={n.address} name={n.name} />
            <span className="soft">{n.reason}</span>
          </li>
        ))}
      </ol>
    </section>
  )
}

/** Where a build begins and where one comes back to: what it is, what stands, what to measure first, how long until the hoist. */
export default function Start() {
  return (
    <>
      <AboutBuild />
      <div className="startline">
        <Stands />
        <HoistDay />
      </div>
      <ToTheBench />
      <NextTable />
    </>
  )
}
