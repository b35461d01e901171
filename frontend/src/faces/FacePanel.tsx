import { lazy, Suspense, useState } from 'react'
import type { Act, Face, PartCard } from '../api/types'
import { putAt, putInRow } from '../entry/acts'
import { ChoiceField } from '../entry/ChoiceField'
import { ELSEWHERE } from '../rows/RowsEditor'
import type { AnyRow } from '../rows/rows'
import RowsTable, { TableHint } from '../rows/RowsTable'
import { HoleWalk } from '../run/HoleWalk'
import { useBuild } from '../shell/buildContext'
import { useLooked } from '../shell/looked'
import { FaceOptions } from './FaceOptions'
import { COLUMNS, fittedFace, LAND, letterOf, PINS, pinsOf, POINT, READING, SET, type FaceOf, type Hole, type Side } from './holes'
import { MoreOfHole } from './MoreOfHole'
import './faces.css'

const PatternPanel = lazy(() => import('./PatternPanel'))
const PLACE = new Set(['u', 'v', 'd'])
const INCH_MM = 25.4

/** Holes of one kind: bolts or dowels. */
function Holes({ of: place, role }: { of: FaceOf; role: Hole['role'] }) {
  const { assessment } = useBuild()
  const { side, face, at: path } = place
  const letter = letterOf(side)
  const holes = face.holes.filter((h) => h.role === role)
  const last = holes.at(-1)
  // A pattern repeats its screws: size, land and fastening follow the hole before; the place is for the tape to say.
  const fresh = { role, d: last?.d ?? null, pitch: last?.pitch ?? null, land: last?.land ?? null, fastening: last?.fastening ?? null }
  const holeOf = (row: AnyRow) => holes.find((h) => h.n === row.n)
  const pins = (row: AnyRow) => {
    const hole = holeOf(row)
    const at = `${path}/holes/${face.holes.findIndex((h) => h.n === row.n)}`
    const set = (value: string): Act[] => [
      putInRow(at, row.n, 'n', 'pin_in_casting', value === 'not said' ? null : value === 'casting' || value === 'both'),
      putInRow(at, row.n, 'n', 'pin_in_plate', value === 'not said' ? null : value === 'plate' || value === 'both'),
    ]
    return <td>{hole && <ChoiceField id={`${place.address(row.n).replaceAll('.', '-')}-pins`} words={`${letter}${row.n} pins`} shown={pinsOf(hole)} choices={PINS} acts={set} />}</td>
  }
  return (
    <RowsTable
      list={`${place.list}.holes`}
      of={place.of}
      address={place.address}
      title={role === 'bolt' ? `Bolt holes of the ${place.called}` : `Dowels of the ${place.called}`}
      columns={COLUMNS[role]}
      rows={holes as unknown as AnyRow[]}
      called={(row) => `${letter}${row.n}`}
      letter={letter}
      head={role === 'bolt' ? 'hole' : 'dowel'}
      unit={face.unit}
      fresh={fresh}
      pastedAs={ELSEWHERE}
      source={face.evidence.source}
      hinted={false}
      adds={role === 'bolt' ? 'Add a hole' : 'Add a dowel'}
      asTyped={(field, value) => (field === 'u' && face.taken_from === 'front' ? -value : value) / (face.unit === 'in' ? INCH_MM : 1)}
      wanted={(row, field) => PLACE.has(field) && place.of === undefined && assessment.quantities[`${place.address(row.n)}.${field}`]?.value == null}
      heads={role === 'dowel' ? ['pin stands in'] : []}
      extra={role === 'dowel' ? pins : undefined}
      more={(row) => {
        const hole = holeOf(row)
        return hole && <MoreOfHole of={place} hole={hole} />
      }}
    />
  )
}

/** Metal of the casting's face without a hole: a rib's end, a nib. It belongs to the outline, and no head may sit under it. */
function OtherLands({ of: { face, list, of, land: address, called } }: { of: FaceOf }) {
  const { assessment } = useBuild()
  return (
    <RowsTable
      list={`${list}.lands`}
      of={of}
      address={address}
      title={`Other lands of the ${called}`}
      columns={LAND}
      rows={face.lands as unknown as AnyRow[]}
      called={(row) => row.name || `land ${row.n} of the ${called}`}
      head="other land"
      unit={face.unit}
      copies={false}
      source={face.evidence.source}
      hinted={false}
      adds="Add another land"
      wanted={(row, field) => PLACE.has(field) && of === undefined && assessment.quantities[`${address(row.n)}.${field}`]?.value == null}
    />
  )
}

/** Distances between holes: nobody can measure a coordinate from the crank axis. The next reading goes on from the last. */
function Readings({ of: place }: { of: FaceOf }) {
  const rows = place.face.readings
  const last = rows.at(-1)
  return (
    <RowsTable
      list={`${place.list}.readings`}
      of={place.of}
      address={place.reading}
      title={`Distances on the ${place.called}`}
      columns={READING}
      rows={rows as unknown as AnyRow[]}
      called={(row) => `Distance ${row.n} on the ${place.called}`}
      head="distance"
      unit={place.face.unit}
      copies={false}
      fresh={{ a: last?.b ?? null, over: last?.over ?? 'centres' }}
      pastedAs={ELSEWHERE}
      hinted={false}
      adds="Add a distance"
      heads={['source']}
      extra={(row) => <td className="soft">{row.said?.['value'] ? [row.said['value'].source, row.said['value'].tool].filter(Boolean).join(', ') : [row.evidence?.source, row.evidence?.tool].filter(Boolean).join(', ')}</td>}
    />
  )
}

/** Points that were taken together: a trace, a scan, a readout. They join the distances. */
function Sets({ of: place }: { of: FaceOf }) {
  const [bringing, bring] = useState(false)
  const { face, called, list, of } = place
  const last = face.points.at(-1)
  const common = { of, unit: face.unit, copies: false, hinted: false }
  return (
    <>
      <div className="actions">
        <button type="button" className="plainbutton" onClick={() => bring(true)}>
          Holes out of a drawing or picture
        </button>
      </div>
      {bringing && (
        <Suspense fallback={null}>
          <PatternPanel of={place} close={() => bring(false)} />
        </Suspense>
      )}
      <RowsTable {...common} list={`${list}.sets`} address={place.set} title={`Sets of points of the ${called}`} columns={SET} rows={face.sets as unknown as AnyRow[]} called={(row) => row.name || `set ${row.n} of the ${called}`} head="set" adds="Add a set of points" />
      {(face.sets.length > 0 || face.points.length > 0) && (
        <RowsTable
          {...common}
          list={`${list}.points`}
          address={place.point}
          title={`Points in sets of the ${called}`}
          columns={POINT}
          rows={face.points as unknown as AnyRow[]}
          called={(row) => `Point ${row.n} of the ${called}`}
          head="point"
          fresh={{ of: last?.of ?? face.sets.at(-1)?.n ?? 1 }}
          pastedAs={ELSEWHERE}
          adds="Add a point"
        />
      )}
    </>
  )
}

/** How many there are of what, in words. */
function words(face: Face): string {
  const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`
  const bolts = face.holes.filter((h) => h.role === 'bolt').length
  const lands = face.lands.length > 0 ? [count(face.lands.length, 'other land')] : []
  return [count(bolts, 'bolt hole'), count(face.holes.length - bolts, 'dowel'), ...lands, `taken ${face.taken_from === 'front' ? 'looking rearwards' : 'from behind, looking forwards'}`, face.evidence.source].join(', ')
}

/** The tables of one hole pattern; side, unit and evidence are said once for the face. */
function Tables({ of, taken }: { of: FaceOf; taken: boolean }) {
  return (
    <>
      {taken && <FaceOptions of={of} />}
      <Holes of={of} role="bolt" />
      <Holes of={of} role="dowel" />
      {of.face.holes.length > 1 && <HoleWalk of={of} />}
      <Readings of={of} />
      <Sets of={of} />
      <OtherLands of={of} />
      <p className="origin soft">Places: across to the right and up, from the crank axis, as the casting was looked at. Where distances are given they place the holes, and a coordinate that is typed is one reading more; an empty hole at the beginning of a distance is the crank axis.</p>
      <TableHint />
    </>
  )
}

/** The holes of a casting that lies on the shelf: its own, kept with it. */
export function ShelfFace({ card }: { card: PartCard }) {
  const { change, state } = useBuild()
  const at = `/parts/${state.document.parts.findIndex((p) => p.n === card.n)}/face`
  const called = card.name || `part ${card.n}`
  if (card.face == null)
    return (
      <button type="button" className="plainbutton" onClick={() => void change([putAt(at, { taken_from: card.kind === 'gearbox' ? 'front' : 'behind' })], `${called}: a hole pattern of its own`)}>
        Type its hole pattern
      </button>
    )
  const of: FaceOf = { side: card.kind === 'gearbox' ? 'gearbox' : 'engine', face: card.face, list: 'parts.face', of: card.n, at, address: (n) => `parts.${card.n}.face.${n}`, land: (n) => `parts.${card.n}.face.land${n}`, reading: (n) => `parts.${card.n}.face.reading${n}`, set: (n) => `parts.${card.n}.face.set${n}`, point: (n) => `parts.${card.n}.face.point${n}`, called }
  return (
    <section className="partrows" aria-label={`Hole pattern of ${called}`}>
      <h3>
        Hole pattern <span className="soft">{words(card.face)}</span>
      </h3>
      <Tables of={of} taken />
    </section>
  )
}

/** One casting's holes by coordinates, as they were taken: side, unit and evidence are said once for the face. */
export default function FacePanel({ side }: { side: Side }) {
  const { state } = useBuild()
  const [chosen, setOpen] = useState<boolean | null>(null)
  const led = useLooked((l) => l.visited.startsWith(`${side}.`))
  const open = chosen ?? led
  const face = side === 'engine' ? state.document.engine_face : state.document.gearbox_face
  // Side, unit and tool are said before the first hole, and seldom after it.
  const [taken, setTaken] = useState(face.holes.length === 0)
  return (
    <section className="face" aria-label={`${side} hole pattern`}>
      <div className="panelhead">
        <h2>{side === 'engine' ? 'Engine face' : 'Gearbox face'}</h2>
        <span className="soft">{words(face)}</span>
        {open && (
          <button type="button" className="quiet" aria-expanded={taken} onClick={() => setTaken(!taken)}>
            how it was taken
          </button>
        )}
        <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'close the holes' : 'open the holes'}
        </button>
      </div>
      {open && <Tables of={fittedFace(side, face)} taken={taken} />}
    </section>
  )
}
