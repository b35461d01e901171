import { useState } from 'react'
import { drawnAt } from '../../board/em'
import type { Step, RowState } from '../../api/types'
import './assemble.css'

const ROW = 26
const TOP = 18
const SPINE = 190
const KINDS = [
  ['needs', 'needs it done first', ''],
  ['hides', 'would bury it', '7 4'],
  ['needs_hold', 'is held by it', '1.5 4'],
] as const

/** The steps as a graph: one row a step, an arc for every link, one step's links brought forward at a time. */
export function Links({ steps, states }: { steps: Step[]; states: Map<number, RowState> }) {
  const [chosen, choose] = useState<number | null>(null)
  const row = new Map(steps.map((s, i) => [s.n, TOP + i * ROW]))
  const links = steps.flatMap((s) => KINDS.flatMap(([kind, says, dash]) => s[kind].map((before) => ({ before, after: s.n, kind, says, dash }))))
  const near = new Set(links.filter((l) => l.before === chosen || l.after === chosen).flatMap((l) => [l.before, l.after]))
  return (
    <div className="links">
      <p className="soft">
        {KINDS.map(([kind, says, dash]) => (
          <span key={kind} className="linkkey">
            <svg width="34" height="8" aria-hidden="true">
              <path d="M1 4 H33" className="link" strokeDasharray={dash} />
            </svg>
            {says}
          </span>
        ))}
      </p>
      <div className="tablescroll">
        <svg {...drawnAt(SPINE + 520, TOP * 2 + (steps.length - 1) * ROW)} role="group" aria-label="Steps and their links">
          {links.map((l) => {
            const [a, b] = [row.get(l.before), row.get(l.after)]
            if (a === undefined || b === undefined) return null
            const out = Math.min(SPINE - 14, 10 + Math.abs(b - a) * 0.42)
            const on = l.before === chosen || l.after === chosen
            return (
              <path key={`${l.kind}${l.before}-${l.after}`} d={`M${SPINE} ${a} C ${SPINE - out * 1.3} ${a}, ${SPINE - out * 1.3} ${b}, ${SPINE} ${b}`} className={`link ${on ? 'on' : chosen === null ? '' : 'off'}`} strokeDasharray={l.dash}>
                <title>{`step ${l.after} ${l.says}: step ${l.before}`}</title>
              </path>
            )
          })}
          {steps.map((s) => {
            const status = states.get(s.n)?.status ?? s.state
            const y = row.get(s.n) ?? 0
            const dim = chosen !== null && chosen !== s.n && !near.has(s.n)
            return (
              <g key={s.n} className={`linknode ${status.replace(' ', '-')} ${dim ? 'off' : ''}`} tabIndex={0} role="button" aria-pressed={chosen === s.n} onClick={() => choose(chosen === s.n ? null : s.n)} onKeyDown={(e) => e.key === 'Enter' && choose(chosen === s.n ? null : s.n)}>
                <rect x={SPINE - 12} y={y - ROW / 2} width={528} height={ROW} className="hit" />
                {s.hold || s.gate ? <rect x={SPINE - 5.5} y={y - 5.5} width={11} height={11} className="dot" /> : <circle cx={SPINE} cy={y} r={5.5} className="dot" />}
                <text x={SPINE + 40} y={y + 4.5} textAnchor="end" className="mono">
                  {s.n}
                </text>
                <text x={SPINE + 52} y={y + 4.5}>
                  {s.name}
                </text>
              </g>
            )
          })}
        </svg>
      </div>
    </div>
  )
}
