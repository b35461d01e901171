import { memo } from 'react'
import { useBuild } from '../shell/buildContext'
import { light, useLit } from '../shell/looked'
import type { Bubble } from './place'
import './board.css'

// Two letters want a longer bubble than one.
const bubbleHalf = (letter: string) => (letter.length > 1 ? 16 : 10.5)

/** One letter with its leader; drawn again when it is looked at or no longer, and nothing beside it. */
const Callout = memo(function Callout({ bubble: b, missing, choose }: { bubble: Bubble; missing: boolean; choose: (address: string) => void }) {
  const lit = useLit(b.address)
  return (
    <g data-callout={b.address} className={`callout ${lit ? 'lit' : ''} ${missing ? 'missing' : ''}`} onPointerEnter={() => light(b.address)} onPointerLeave={() => light('')} onClick={() => choose(b.address)}>
      <line x1={b.bubble[0]} y1={b.bubble[1]} x2={b.at[0]} y2={b.at[1]} />
      <circle cx={b.at[0]} cy={b.at[1]} r="1.8" className="anchor" />
      <rect x={b.bubble[0] - bubbleHalf(b.letter)} y={b.bubble[1] - 10.5} width={2 * bubbleHalf(b.letter)} height="21" rx="10.5" className="bubble" />
      <text x={b.bubble[0]} y={b.bubble[1] + 4.5} textAnchor="middle">
        {b.letter}
      </text>
    </g>
  )
})

/** The letters of a picture; a click on one types its size right there. */
export function Callouts({ bubbles, choose }: { bubbles: readonly Bubble[]; choose: (address: string) => void }) {
  const { assessment } = useBuild()
  return (
    <>
      {bubbles.map((b) => (
        <Callout key={b.address} bubble={b} missing={assessment.quantities[b.address]?.value == null} choose={choose} />
      ))}
    </>
  )
}
