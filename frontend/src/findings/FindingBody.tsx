import Button from '@mui/material/Button'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { api } from '../api/client'
import type { Act, Detail, Finding, Station } from '../api/types'
import { figure, written } from '../api/units'
import { putAt } from '../entry/acts'
import { useBuild, useTrial } from '../shell/buildContext'
import { light } from '../shell/looked'
import { useSettings } from '../shell/settings'
import { stationName } from '../shell/StationRail'
import { useGo, useVisit } from '../shell/visit'
import { LimitEditor, WaiverEditor } from './editors'
import { Way } from './Way'
import './findings.css'

function Doubt({ detail }: { detail: Detail }) {
  const { system } = useBuild()
  if (detail.shares.length === 0) return null
  return (
    <>
      <h4>Doubt comes from</h4>
      <ul className="plain shares">
        {detail.shares.slice(0, 5).map((s) => (
          <li key={s.address} onPointerEnter={() => light(s.address)} onPointerLeave={() => light('')}>
            <span className="bar" style={{ width: `${Math.max(s.share * 100, 3)}%` }} />
            <span>
              {s.letter && <b>{s.letter} </b>}
              {s.name}, {s.source}, ± {written(s.pm, s.kind, system, s.pm)} · {Math.round(s.share * 100)} %
            </span>
          </li>
        ))}
      </ul>
    </>
  )
}

const NONE: Act[] = []
const SETTLED_MS = 350

/** A value once it has rested for a moment: while something is dragged nobody looks for ways out. */
function useSettled<T>(value: T): T {
  const [settled, settle] = useState(value)
  useEffect(() => {
    const timer = window.setTimeout(() => settle(value), SETTLED_MS)
    return () => window.clearTimeout(timer)
  }, [value])
  return settled
}

/** Asked when a finding is opened: looking for the least change of each dimension takes longer than all findings together. */
function useOpened(finding: Finding) {
  const { state } = useBuild()
  const trial = useTrial()
  const acts = useSettled(trial?.result ? trial.acts : NONE)
  return useQuery({
    queryKey: ['opened', state.id, state.version, finding.id, JSON.stringify(acts)],
    queryFn: () => api.opened(state.id, finding.id, acts),
    placeholderData: keepPreviousData,
  })
}

function WaysOut({ finding, detail }: { finding: Finding; detail: Detail }) {
  const { system } = useBuild()
  if (detail.inputs.length === 0) return null
  const sampled = detail.sampled
  const drawn = sampled && (
    <p className="soft">
      Drawn at random (Monte Carlo) the margin lies from {figure(sampled.low, finding.kind, system)} to {written(sampled.high, finding.kind, system)}; it holds in {Math.round(sampled.chance * 100)} % of the draws.
    </p>
  )
  if (finding.verdict !== 'fouls' && finding.verdict !== 'tight') return drawn ?? null
  return (
    <>
      <h4>Ways out</h4>
      {detail.ways.length === 0 && <p>No single dimension that you may choose clears it without spoiling something else: change a part, or measure what carries the doubt.</p>}
      {detail.ways.map((w) => (
        <Way key={w.address} way={w} />
      ))}
      {drawn}
    </>
  )
}

function Sources({ detail }: { detail: Detail }) {
  if (detail.rules.length === 0) return null
  return (
    <>
      <h4>Limits</h4>
      <ul className="plain soft">
        {detail.rules.map((r) => (
          <li key={r.id}>
            {r.name}: {r.value} {r.unit}
            {r.overridden && <b className="tight"> changed from {r.default} for this build: {r.note}</b>}; {r.reason}. {r.source}. <LimitEditor rule={r} />
          </li>
        ))}
      </ul>
    </>
  )
}

const STATUS: Record<string, string> = { missing: 'not measured', word: 'only a word' }

/** Every input that is wanting, and how to take it; a click goes to its line or cell. */
function Wanted({ finding, detail }: { finding: Finding; detail: Detail }) {
  const { dimension } = useBuild()
  const visit = useVisit()
  if (detail.missing.length === 0 || finding.condition === 'contradiction') return null
  return (
    <>
      <h4>Still wanted</h4>
      <ul className="plain wanted">
        {detail.missing.map((m) => (
          <li key={m.address}>
            <button type="button" className="quiet" onClick={() => visit(m.address, finding.station)}>
              {m.letter && <b>{m.letter} </b>}
              {m.name}
            </button>{' '}
            <span className="soft">{[STATUS[m.status] ?? m.status, m.status === 'missing' ? '' : m.detail, dimension(m.address)?.how].filter(Boolean).join('; ')}</span>
          </li>
        ))}
      </ul>
    </>
  )
}

function Contradiction({ detail }: { detail: Detail }) {
  const { state, change } = useBuild()
  const key = detail.missing[0]?.address ?? ''
  const statements = state.document.dims[key]?.statements ?? []
  return (
    <>
      <h4>Which one holds</h4>
      {statements.map((s) => (
        <div className="way" key={s.id}>
          <span>
            <span className="mono">{s.takes.at(-1)?.typed}</span> {s.source}
            {s.note && <span className="soft">, {s.note}</span>}
          </span>
          <Button variant="outlined" onClick={() => void change([putAt(`/dims/${key}/chosen`, s.id)], `chosen: ${s.takes.at(-1)?.typed ?? ''}, ${s.source}`)}>
            Choose
          </Button>
        </div>
      ))}
    </>
  )
}

/** Says that a size asked about is so; until then it counts for nothing. */
function ItIsSo({ finding }: { finding: Finding }) {
  const { change } = useBuild()
  const { who } = useSettings()
  return (
    <Button variant="outlined" onClick={() => void change([putAt(finding.sure_at, who ? `${who} says that it is so` : 'said to be so')], `it is so: ${finding.title}`)}>
      It is so
    </Button>
  )
}

/** What a finding says when it is opened: why, doubt, ways out, caution, source of the limit. */
export default function FindingBody({ finding, elsewhere }: { finding: Finding; elsewhere: Station | null }) {
  const go = useGo()
  const visit = useVisit()
  const opened = useOpened(finding)
  const detail = opened.data
  return (
    <div className="findingbody">
      {opened.isPending && <p role="status">Looking for the least change</p>}
      {opened.isError && <p role="alert">{opened.error.message}</p>}
      {detail && (
        <>
          <p>{detail.why}</p>
          {finding.condition === 'contradiction' && finding.sure_at === '' && detail.missing.length === 1 && <Contradiction detail={detail} />}
          {finding.sure_at && <ItIsSo finding={finding} />}
          <Wanted finding={finding} detail={detail} />
          <WaysOut finding={finding} detail={detail} />
          <Doubt detail={detail} />
          {detail.caution && <p className="caution">Caution: {detail.caution}</p>}
          <Sources detail={detail} />
        </>
      )}
      {finding.verdict !== 'goes' && <WaiverEditor finding={finding} />}
      {finding.row && (
        <Button variant="outlined" onClick={() => visit(finding.row, finding.station)}>
          Show all of it
        </Button>
      )}
      {elsewhere && (
        <Button variant="outlined" onClick={() => go(elsewhere, finding.question)}>
          Go to {stationName(elsewhere)}
        </Button>
      )}
    </div>
  )
}
