import { useEffect, useRef } from 'react'
import type { Callout, DimensionRow } from '../api/types'
import { figure, written } from '../api/units'
import { shownUnit } from '../entry/acts'
import { DimensionField } from '../entry/DimensionField'
import { useBuild, useTrial } from '../shell/buildContext'
import { useLooked } from '../shell/looked'
import { EM } from './em'
import { placeLabels, type Box, type Place } from './place'
import './board.css'

const TICK = 6

/** The two ends of a callout on the board; its own point where the picture does not show them. */
function endsOf(callout: Callout, place: Place): readonly [number, number, number, number] {
  const [x1, y1, x2, y2] = callout.stretch ?? [callout.x, callout.y, callout.x, callout.y]
  return [place.x(x1), place.y(y1), place.x(x2), place.y(y2)]
}

/** The callout of the size that is looked at: the one that is typed in, else the one that is lit. */
function useCallout(callouts: readonly Callout[], typing: string): Callout | undefined {
  const address = useLooked((l) => typing || (callouts.some((c) => c.address === l.lit) ? l.lit : ''))
  return address === '' ? undefined : callouts.find((c) => c.address === address)
}

interface Looked {
  callouts: readonly Callout[]
  /** Address of the size that is typed in the picture; empty for none. */
  typing: string
  place: Place
}

/** A dimension line between the two ends of the size that is looked at, with a tick across each. */
export function SizeLine({ callouts, typing, place }: Looked) {
  const callout = useCallout(callouts, typing)
  if (callout?.stretch == null) return null
  const [x1, y1, x2, y2] = endsOf(callout, place)
  const far = Math.hypot(x2 - x1, y2 - y1) || 1
  const [nx, ny] = [(-(y2 - y1) / far) * TICK, ((x2 - x1) / far) * TICK]
  return (
    <g className="sizeline">
      <path d={`M${x1},${y1}L${x2},${y2}M${x1 - nx},${y1 - ny}L${x1 + nx},${y1 + ny}M${x2 - nx},${y2 - ny}L${x2 + nx},${y2 + ny}`} />
    </g>
  )
}

interface Beside {
  /** What the value may not cover. */
  taken: readonly Box[]
  width: number
  height: number
  stop: () => void
}

/** As wide as a field with its unit. */
const WIDEST = '00000000000000000'

/** The value of the size that is looked at, beside its line; a click on its letter types it right there. */
export function SizeBox({ callouts, typing, ...more }: Looked & Beside) {
  const { dimension } = useBuild()
  const callout = useCallout(callouts, typing)
  const row = callout && dimension(callout.address)
  return callout && row ? <Value callout={callout} row={row} typing={typing === callout.address} {...more} /> : null
}

function Value({ callout, row, place, taken, width, height, typing, stop }: Beside & { callout: Callout; row: DimensionRow; place: Place; typing: boolean }) {
  const { assessment, system } = useBuild()
  const trial = useTrial()
  const q = assessment.quantities[callout.address]
  const holder = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (typing) holder.current?.querySelector('input')?.focus()
  }, [typing])
  const [x1, y1, x2, y2] = endsOf(callout, place)
  const told = q?.value == null ? `${callout.letter} not taken` : `${callout.from_axis ? '⌀ ' : ''}${figure(q.value, row.kind, system, q.pm)} ± ${written(q.pm, row.kind, system, q.pm)}`
  // A level line is spoken of above or below it, an upright one beside it.
  const towards = Math.abs(x2 - x1) >= Math.abs(y2 - y1) ? ([0, -1] as const) : ([1, 0] as const)
  const [box] = placeLabels([{ text: typing ? WIDEST : `${told}  `, at: [(x1 + x2) / 2, (y1 + y2) / 2], r: 6, towards }], taken, width, height)
  return (
    <div
      ref={holder}
      className={`sizebox ${typing ? 'typing' : ''}`}
      style={box && { left: box.x * EM, top: box.y * EM }}
      onBlur={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget)) stop()
      }}
    >
      {typing ? (
        <>
          <DimensionField at="board" row={row} q={q} system={system} trying={trial?.values[row.key] !== undefined} />
          <span className="soft">{shownUnit(row, system)}</span>
        </>
      ) : (
        <span className="mono">{told}</span>
      )}
    </div>
  )
}
