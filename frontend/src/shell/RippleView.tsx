import { useState } from 'react'
import type { Ripple } from '../api/types'
import { figure, written } from '../api/units'
import { useBuild } from './buildContext'
import { openFinding } from './looked'
import { stationName } from './StationRail'
import './shell.css'

type Turn = Ripple['turns'][number]

function TurnLine({ turn }: { turn: Turn }) {
  const { system } = useBuild()
  const same = turn.before === turn.after
  return (
    <li>
      <button type="button" className="turnline" onClick={() => openFinding(turn.id)}>
        <span className="soft">{stationName(turn.station)}</span> {turn.title}:{' '}
        {same ? (
          <span className="mono">
            {turn.value_before == null ? '' : figure(turn.value_before, turn.kind, system)} → {turn.value_after == null ? '' : written(turn.value_after, turn.kind, system)}
          </span>
        ) : (
          <>
            {turn.before} → <b className={turn.after}>{turn.after === 'gone' ? 'cleared' : turn.after}</b>
          </>
        )}
      </button>
    </li>
  )
}

/** What a change touches before it is kept: findings that turn, readings that lapse, lengths and parts that follow. */
export default function RippleView({ ripple }: { ripple: Ripple }) {
  const { system } = useBuild()
  const [whole, setWhole] = useState(false)
  const worse = ripple.turns.filter((t) => t.worse)
  const better = ripple.turns.filter((t) => !t.worse)
  return (
    <div className="ripple">
      <section aria-label="Findings that turn">
        <h3>
          Findings that turn <span className="soft">{ripple.read_by === 0 ? 'none reads it' : `${ripple.read_by} read it`}</span>
        </h3>
        {ripple.turns.length === 0 && <p>No finding turns.</p>}
        <ul className="plain">
          {[...worse, ...better].map((t) => (
            <TurnLine key={t.id} turn={t} />
          ))}
        </ul>
        {ripple.shifts.length > 0 && (
          <button type="button" className="quiet" aria-expanded={whole} onClick={() => setWhole(!whole)}>
            {whole ? 'only those that turn' : `${ripple.shifts.length} more move and keep their verdict`}
          </button>
        )}
        {whole && (
          <ul className="plain">
            {ripple.shifts.map((t) => (
              <TurnLine key={t.id} turn={t} />
            ))}
          </ul>
        )}
      </section>
      <section aria-label="Readings that lapse">
        <h3>Readings that lapse</h3>
        {ripple.lapsing.length === 0 && <p>None.</p>}
        <ul className="plain">
          {ripple.lapsing.map((x) => (
            <li key={x.address + x.statement}>
              <s className="mono">{x.shown}</s> {x.name}
            </li>
          ))}
        </ul>
        {ripple.steps.length > 0 && (
          <>
            <h3>Done steps to look at again</h3>
            <ul className="plain">
              {ripple.steps.map((s) => (
                <li key={s}>{s}</li>
              ))}
            </ul>
          </>
        )}
      </section>
      <section aria-label="Lengths and parts that follow">
        <h3>Lengths and parts that follow</h3>
        {ripple.lengths.length + ripple.parts.length === 0 && <p>None.</p>}
        <ul className="plain">
          {ripple.lengths.map((x) => (
            <li key={x.name}>
              {x.name}:{' '}
              <span className="mono">
                {figure(x.before, x.kind, system)} → {written(x.after, x.kind, system)}
              </span>
            </li>
          ))}
        </ul>
        {ripple.parts.length > 0 && <p className="soft">Parts: {ripple.parts.join(', ')}</p>}
      </section>
    </div>
  )
}
