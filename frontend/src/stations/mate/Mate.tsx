import { useState } from 'react'
import { Board } from '../../board/Board'
import { Ledger } from '../../ledger/Ledger'
import { useBuild } from '../../shell/buildContext'
import { figure } from '../../api/units'
import { FacePanel } from './FacePanel'
import { mirrored } from './mirror'

const FILES = [
  ['plate.dxf', 'DXF'],
  ['plate.svg', 'SVG'],
  ['plate.pdf', '1:1 on A4'],
  ['plate.pdf?paper=Letter', '1:1 on Letter'],
  ['plate.csv', 'drilling table'],
] as const

/** Mate: both hole patterns and the plate, seen from behind; the gearbox can be turned as a trial. */
export function Mate() {
  const { boards, state } = useBuild()
  const [mirror, setMirror] = useState(false)
  const drawing = mirror ? mirrored(boards.mate) : boards.mate
  return (
    <>
      <Board drawing={drawing} label="Both faces and the plate" ruler={false} edge={26}>
        <div className="boardtools">
          <button type="button" className="quiet" aria-pressed={mirror} onClick={() => setMirror(!mirror)}>
            {mirror ? 'see it from behind' : 'see it from the front'}
          </button>
          <span className="soft">{boards.plate_mass_kg == null ? '' : `plate ${figure(boards.plate_mass_kg, 'mass', 'mm')} kg`}</span>
          {FILES.map(([file, words]) => (
            <a key={file} href={`/api/builds/${state.id}/${file}`} download>
              {words}
            </a>
          ))}
        </div>
      </Board>
      <FacePanel side="engine" />
      <FacePanel side="gearbox" />
      <Ledger station="mate" />
    </>
  )
}
