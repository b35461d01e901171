import Button from '@mui/material/Button'
import { useEffect, useRef, useState } from 'react'
import type { Face, Hole, Op } from '../../api/types'
import { SourceSelect, ToolSelect } from '../../ledger/EvidenceSelects'
import { FigureField } from '../../ledger/FigureField'
import { StateFields } from '../../ledger/StateFields'
import { useBuild } from '../../shell/buildContext'
import { triedAt } from '../../shell/patches'

type Side = 'engine' | 'gearbox'
const FASTENINGS = ['countersunk', 'cap head', 'hex head', 'tapped', 'nut'] as const
const BACKINGS = ['metal', 'air', 'oil', 'water', 'unknown'] as const
const PLACE = [
  ['u', 'across'],
  ['v', 'up'],
  ['d', 'size'],
] as const
const COLUMNS = {
  bolt: [...PLACE, ['land', 'land'], ['plate_hole', 'plate hole'], ['recess', 'recess']],
  dowel: [...PLACE, ['land', 'land'], ['stand_out', 'stands out'], ['mating_depth', 'depth for it']],
} as const
type Set = (ops: Op[], why: string, asTrial?: boolean) => Promise<string | null>

const pins = (h: Hole): string => {
  if (h.pin_in_casting == null || h.pin_in_plate == null) return 'not said'
  return h.pin_in_casting ? (h.pin_in_plate ? 'both' : 'casting') : h.pin_in_plate ? 'plate' : 'none'
}

interface CellProps {
  side: Side
  /** Address of the hole or land in the assessment, and its path in the document. */
  address: string
  at: string
  mark: string
  field: string
  words: string
  shown: string
  unit: string
  set: Set
}

/** One figure of a hole or land; its place and size have to be known before anything can be said of it. */
function FigureCell({ side, address, at, mark, field, words, shown, unit, set }: CellProps) {
  const { assessment, trial } = useBuild()
  const tried = triedAt(trial?.ops, `${at}/${field}`)
  const stands = typeof tried === 'string' ? tried : shown
  const wanted = field === 'u' || field === 'v' || field === 'd'
  return (
    <td data-unmeasured={wanted && assessment.quantities[`${side}.${address}.${field}`]?.value == null}>
      <FigureField id={`${side}-${address}-${field}`} label={`${mark} ${words}, ${unit}`} shown={stands} kind="length" unit={unit} className={stands ? 'cell' : 'cell none'} mayClear commit={(typed, _, asTrial) => set([{ op: 'add', path: `${at}/${field}`, value: typed === '' ? null : typed }], `${mark}, ${words}, ${unit}`, asTrial)} />
    </td>
  )
}

function HoleRow({ side, face, hole, index, set }: { side: Side; face: Face; hole: Hole; index: number; set: Set }) {
  const { light } = useBuild()
  const mark = `${side === 'engine' ? 'E' : 'G'}${hole.n}`
  const at = `/${side}_face/holes/${index}`
  const put = (field: string, value: unknown) => set([{ op: 'add', path: `${at}/${field}`, value }], `${mark}, ${field.replace('_', ' ')}`)
  const setPins = (value: string) =>
    set(
      [
        { op: 'add', path: `${at}/pin_in_casting`, value: value === 'not said' ? null : value === 'casting' || value === 'both' },
        { op: 'add', path: `${at}/pin_in_plate`, value: value === 'not said' ? null : value === 'plate' || value === 'both' },
      ],
      `${mark}, pins`,
    )
  return (
    <tr onPointerEnter={() => light(`${side}.${hole.n}`)} onPointerLeave={() => light('')}>
      <th scope="row" className="mono">
        {mark}
      </th>
      {COLUMNS[hole.role].map(([field, words]) => (
        <FigureCell key={field} side={side} address={String(hole.n)} at={at} mark={mark} field={field} words={words} shown={hole[field] ?? ''} unit={face.unit} set={set} />
      ))}
      <td>
        {hole.role === 'dowel' ? (
          <select aria-label={`${mark} pins`} value={pins(hole)} onChange={(e) => void setPins(e.target.value)}>
            {['not said', 'none', 'casting', 'plate', 'both'].map((x) => (
              <option key={x}>{x}</option>
            ))}
          </select>
        ) : (
          <select aria-label={`${mark} fastening`} value={hole.fastening ?? ''} onChange={(e) => void put('fastening', e.target.value || null)}>
            <option value="">not said</option>
            {FASTENINGS.map((x) => (
              <option key={x}>{x}</option>
            ))}
          </select>
        )}
      </td>
      {hole.role === 'bolt' && (
        <td>
          <select aria-label={`${mark}, what is behind`} value={hole.backing} onChange={(e) => void put('backing', e.target.value)}>
            {BACKINGS.map((x) => (
              <option key={x}>{x}</option>
            ))}
          </select>
        </td>
      )}
      <td>
        <button type="button" className="quiet" aria-label={`Remove ${mark}`} onClick={() => void set([{ op: 'remove', path: at }], `${mark} removed`)}>
          remove
        </button>
      </td>
    </tr>
  )
}

function Holes({ side, face, role, set }: { side: Side; face: Face; role: Hole['role']; set: Set }) {
  if (!face.holes.some((h) => h.role === role)) return null
  return (
    <div className="tablescroll" tabIndex={0}>
      <table className="holes" aria-label={role === 'bolt' ? `Bolt holes of the ${side}` : `Dowels of the ${side}`}>
        <thead>
          <tr>
            <th>{role === 'bolt' ? 'hole' : 'dowel'}</th>
            {COLUMNS[role].map(([f, name]) => (
              <th key={f}>
                {name}, {face.unit}
              </th>
            ))}
            <th>{role === 'bolt' ? 'fastened by' : 'pin stands in'}</th>
            {role === 'bolt' && <th>behind it</th>}
            <th>
              <span className="visually-hidden">remove</span>
            </th>
          </tr>
        </thead>
        <tbody>{face.holes.map((h, i) => (h.role === role ? <HoleRow key={h.n} side={side} face={face} hole={h} index={i} set={set} /> : null))}</tbody>
      </table>
    </div>
  )
}

/** Metal of the casting's face without a hole: a rib's end, a nib. It belongs to the outline, and no head may sit under it. */
function OtherLands({ side, face, set }: { side: Side; face: Face; set: Set }) {
  if (face.lands.length === 0) return null
  return (
    <div className="tablescroll" tabIndex={0}>
      <table className="holes" aria-label={`Other lands of the ${side}`}>
        <thead>
          <tr>
            <th>other land</th>
            {PLACE.map(([f, name]) => (
              <th key={f}>
                {name}, {face.unit}
              </th>
            ))}
            <th>
              <span className="visually-hidden">remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {face.lands.map((land, i) => {
            const at = `/${side}_face/lands/${i}`
            const mark = land.name || `land ${i + 1}`
            return (
              <tr key={i}>
                <td>
                  <input key={land.name} className="textcell" aria-label={`Name of ${mark}, ${side}`} defaultValue={land.name} maxLength={200} onBlur={(e) => e.target.value !== land.name && void set([{ op: 'replace', path: `${at}/name`, value: e.target.value }], `${side} face, land named`)} />
                </td>
                {PLACE.map(([field, words]) => (
                  <FigureCell key={field} side={side} address={`land${i}`} at={at} mark={mark} field={field} words={words} shown={land[field] ?? ''} unit={face.unit} set={set} />
                ))}
                <td>
                  <button type="button" className="quiet" aria-label={`Remove ${mark}`} onClick={() => void set([{ op: 'remove', path: at }], `${side} face, ${mark} removed`)}>
                    remove
                  </button>
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </div>
  )
}

/** One casting's holes by coordinates, as they were taken: side, unit and evidence are said once for the face. */
export function FacePanel({ side }: { side: Side }) {
  const { state, change, enter } = useBuild()
  const [open, setOpen] = useState(false)
  const face = side === 'engine' ? state.document.engine_face : state.document.gearbox_face
  const at = `/${side}_face`
  // A new hole is typed into at once, unless the hands are in another field by then.
  const fresh = useRef('')
  useEffect(() => {
    const field = fresh.current === '' ? null : document.getElementById(fresh.current)
    if (field === null) return
    fresh.current = ''
    if (document.activeElement?.tagName !== 'INPUT') field.focus()
  }, [face.holes])
  const put = (path: string, value: unknown, why: string) => enter([{ op: 'add', path: `${at}${path}`, value }], `${side} face, ${why}`)
  const add = (role: Hole['role']) => {
    const n = Math.max(0, ...face.holes.map((h) => h.n)) + 1
    const last = face.holes.findLast((h) => h.role === role)
    // A pattern repeats its screws: size, land and fastening follow the hole before; the place is for the tape to say.
    const hole = { n, role, d: last?.d ?? null, land: last?.land ?? null, fastening: last?.fastening ?? null }
    fresh.current = `${side}-${n}-u`
    return change([{ op: 'add', path: `${at}/holes/-`, value: hole }], `${side} face, hole ${n} added`)
  }
  const addLand = () => change([{ op: 'add', path: `${at}/lands/-`, value: {} }], `${side} face, land added`)
  const words = `${face.holes.filter((h) => h.role === 'bolt').length} bolt holes, ${face.holes.filter((h) => h.role === 'dowel').length} dowels, ${face.lands.length > 0 ? `${face.lands.length} other land${face.lands.length > 1 ? 's' : ''}, ` : ''}taken ${face.taken_from === 'front' ? 'looking rearwards' : 'from behind, looking forwards'}, ${face.evidence.source}`
  return (
    <section className="face" aria-label={`${side} hole pattern`}>
      <div className="panelhead">
        <h2>{side === 'engine' ? 'Engine face' : 'Gearbox face'}</h2>
        <span className="soft">{words}</span>
        <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'close the holes' : 'open the holes'}
        </button>
      </div>
      {open && (
        <>
          <div className="options">
            <label className="field">
              Taken
              <select value={face.taken_from} onChange={(e) => void put('/taken_from', e.target.value, 'side')}>
                <option value="behind">from behind, looking forwards</option>
                <option value="front">from the front, looking rearwards (into a mouth)</option>
              </select>
            </label>
            <label className="field">
              Unit as typed
              <select value={face.unit} onChange={(e) => void put('/unit', e.target.value, 'unit')}>
                <option>mm</option>
                <option>in</option>
              </select>
            </label>
            <label className="field">
              Source
              <SourceSelect value={face.evidence.source} put={(value) => void put('/evidence/source', value, 'source')} />
            </label>
            <label className="field">
              Tool
              <ToolSelect value={face.evidence.tool} put={(value) => void put('/evidence/tool', value || null, 'tool')} />
            </label>
            <StateFields state={face.evidence.state} of={`${side} pattern`} only={['position', 'gearbox']} put={(field, value) => put(`/evidence/state/${field}`, value, 'state')} />
            <span className="field">
              ± of each coordinate, mm
              <FigureField id={`${side}-pm`} label={`± of the ${side} pattern, mm`} shown={face.evidence.pm ?? ''} kind="length" unit="mm" className="small" mayClear commit={(typed) => put('/evidence/pm', typed || null, '±')} />
            </span>
          </div>
          <Holes side={side} face={face} role="bolt" set={enter} />
          <Holes side={side} face={face} role="dowel" set={enter} />
          <OtherLands side={side} face={face} set={enter} />
          <div className="actions">
            <Button variant="outlined" onClick={() => void add('bolt')}>
              Add a hole
            </Button>
            <Button variant="outlined" onClick={() => void add('dowel')}>
              Add a dowel
            </Button>
            <Button variant="outlined" onClick={() => void addLand()}>
              Add another land
            </Button>
          </div>
        </>
      )}
    </section>
  )
}
