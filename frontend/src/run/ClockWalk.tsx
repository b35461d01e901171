import { useEffect, useRef, useState } from 'react'
import { RowsEditor } from '../rows/RowsEditor'
import { useDesk } from '../entry/useDesk'
import { typeHere } from '../tray/typed'
import { clockStops, dialAt } from './walks'
import { Walk } from './Walk'
import './run.css'

const POSITIONS = [4, 6, 8, 12] as const
/** Between two readings of the dial that turns by itself. */
const TURN_MS = 350
const NOISE_MM = 0.004

/** A dial that turns by itself, standing in for one on a line: it reads each position as it is asked for. */
function TurningDial({ at, count }: { at: number; count: number }) {
  const desk = useDesk()
  const [said, say] = useState({ offset: '0.12', towards: '75', oval: '0.04' })
  const [turning, turn] = useState(false)
  const [offset, towards, oval] = [said.offset, said.towards, said.oval].map((t) => Number(t.replace(',', '.')) || 0)
  const shown = useRef<number>(-1)
  useEffect(() => {
    if (!turning || at > count || shown.current === at) return undefined
    const timer = window.setTimeout(() => {
      shown.current = at
      typeHere(desk, dialAt(((at * 360) / count) % 360, { offset: offset ?? 0, towards: towards ?? 0, oval: oval ?? 0, noise: NOISE_MM }).toFixed(2), 'from the simulated dial, while no field was in hand')
    }, TURN_MS)
    return () => window.clearTimeout(timer)
  }, [at, count, desk, offset, oval, towards, turning])
  const field = (key: keyof typeof said, words: string) => (
    <label className="field">
      {words}
      <input className="mono" value={said[key]} maxLength={8} onChange={(e) => say({ ...said, [key]: e.target.value })} />
    </label>
  )
  return (
    <fieldset className="trydial">
      <legend>A simulated dial that turns by itself</legend>
      {field('offset', 'offset, mm')}
      {field('towards', 'towards, deg')}
      {field('oval', 'oval by, mm')}
      <button type="button" className="plainbutton" aria-pressed={turning} onMouseDown={(e) => e.preventDefault()} onClick={() => turn(!turning)}>
        {turning ? 'Stop it' : 'Turn it'}
      </button>
    </fieldset>
  )
}

/** Readings of a dial round the clock: walked one after the other, typed in a list, or from the dial that turns by itself. */
export default function ClockWalk() {
  const [of, setOf] = useState<'bore' | 'face'>('bore')
  const [count, setCount] = useState<number>(8)
  const [walking, walk] = useState(false)
  return (
    <>
      {walking ? (
        <Walk title={`Dial on the ${of}`} stops={clockStops(of, count)} unit="mm" close={() => walk(false)}>
          {(at) => <TurningDial at={at} count={count} />}
        </Walk>
      ) : (
        <div className="walkstart">
          <label className="field">
            Plunger on the
            <select value={of} onChange={(e) => setOf(e.target.value as typeof of)}>
              <option>bore</option>
              <option>face</option>
            </select>
          </label>
          <label className="field">
            positions
            <select value={count} onChange={(e) => setCount(Number(e.target.value))}>
              {POSITIONS.map((n) => (
                <option key={n}>{n}</option>
              ))}
            </select>
          </label>
          <button type="button" className="plainbutton" onClick={() => walk(true)}>
            Walk round the clock
          </button>
        </div>
      )}
      <RowsEditor listKey="dials" />
    </>
  )
}
