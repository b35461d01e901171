import { useMemo, useState } from 'react'
import type { FaceOf } from '../faces/holes'
import { letterOf } from '../faces/holes'
import { holeStops, pairsOf, type Over, type Stop } from './walks'
import { Walk } from './Walk'
import './run.css'

const OVERS = ['outside edges', 'inside edges', 'centres'] as const

/** A walk over the pairs of a pattern, for a calliper that types. */
export function HoleWalk({ of: { face, list, of, side, called } }: { of: FaceOf }) {
  const [over, setOver] = useState<Over>('outside edges')
  const [stops, walk] = useState<readonly Stop[] | null>(null)
  const left = useMemo(() => pairsOf(face).length, [face])
  if (stops !== null) return <Walk title={`Distances on the ${called}`} stops={stops} unit={face.unit} close={() => walk(null)} />
  return (
    <div className="walkstart">
      <label className="field">
        Read over
        <select value={over} onChange={(e) => setOver(e.target.value as Over)}>
          {OVERS.map((o) => (
            <option key={o}>{o}</option>
          ))}
        </select>
      </label>
      <button type="button" className="plainbutton" disabled={left === 0} onClick={() => walk(holeStops(face, list, of, letterOf(side), over))}>
        Walk the {left} pairs
      </button>
    </div>
  )
}
