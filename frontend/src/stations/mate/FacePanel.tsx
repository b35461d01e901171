import Button from '@mui/material/Button'
import { Fragment, useEffect, useRef, useState } from 'react'
import type { Act, Face, Hole } from '../../api/types'
import { putAt, putInRow } from '../../entry/acts'
import { ChoiceField } from '../../entry/ChoiceField'
import { FigureField } from '../../entry/FigureField'
import { once } from '../../entry/hands'
import { useDesk } from '../../entry/useDesk'
import { WordsField } from '../../entry/WordsField'
import { SourceSelect, ToolSelect } from '../../ledger/EvidenceSelects'
import { StateFields } from '../../ledger/StateFields'
import { useBuild } from '../../shell/buildContext'

type Side = 'engine' | 'gearbox'
const FASTENINGS = ['countersunk', 'cap head', 'hex head', 'tapped', 'nut'] as const
const BACKINGS = ['metal', 'air', 'oil', 'water', 'unknown'] as const
const MATERIALS = ['aluminium', 'cast iron', 'steel'] as const
const PINS = ['not said', 'none', 'casting', 'plate', 'both'] as const
const PLACE = [
  ['u', 'across'],
  ['v', 'up'],
  ['d', 'size'],
] as const
const COLUMNS = {
  bolt: [...PLACE, ['land', 'land'], ['plate_hole', 'plate hole'], ['recess', 'recess']],
  dowel: [...PLACE, ['land', 'land'], ['stand_out', 'stands out'], ['mating_depth', 'depth for it']],
} as const
const MORE = [
  ['pitch', 'pitch of the thread'],
  ['depth', 'thread found, deep'],
  ['flange', 'flange here'],
] as const

const pins = (h: Hole): string => {
  if (h.pin_in_casting == null || h.pin_in_plate == null) return 'not said'
  return h.pin_in_casting ? (h.pin_in_plate ? 'both' : 'casting') : h.pin_in_plate ? 'plate' : 'none'
}
const markOf = (side: Side, hole: Hole) => `${side === 'engine' ? 'E' : 'G'}${hole.n}`

interface CellProps {
  side: Side
  /** Address of the hole or land in the assessment, and its list and number. */
  address: string
  list: string
  row: number
  mark: string
  field: string
  words: string
  kind?: string
  shown: string
  unit: string
}

/** One figure of a hole or land. */
function Figure({ side, address, list, row, mark, field, words, kind = 'length', shown, unit }: CellProps) {
  const desk = useDesk()
  const id = `${side}-${address}-${field}`
  const acts = (typed: string): Act[] => [{ do: 'cell', list, row, field, typed: typed || null, tool: (desk.now().tool || null) as null }]
  return <FigureField id={id} label={`${mark} ${words}, ${unit}`} shown={shown} kind={kind} unit={unit} className={shown ? 'cell' : 'cell none'} mayClear acts={acts} />
}

/** A cell of the table; place and size have to be known before anything can be said of a hole. */
function FigureCell(props: CellProps) {
  const { assessment } = useBuild()
  const wanted = PLACE.some(([field]) => field === props.field)
  return (
    <td data-unmeasured={wanted && assessment.quantities[`${props.side}.${props.address}.${props.field}`]?.value == null}>
      <Figure {...props} />
    </td>
  )
}

interface RowProps {
  side: Side
  face: Face
  hole: Hole
  index: number
}

/** What a hole has beside its place: a nickname, its thread, the flange, where its figures come from. */
function MoreOfHole({ side, face, hole }: RowProps) {
  const mark = markOf(side, hole)
  const list = `${side}_face.holes`
  const put = (field: string, value: unknown): Act[] => [{ do: 'put', list, row: hole.n, field, value: value as never }]
  const evidence = hole.evidence ?? face.evidence
  const id = (field: string) => `${side}-${hole.n}-${field}`
  return (
    <div className="options">
      <label className="field">
        Called
        <WordsField id={id('name')} words={`${mark}, called`} labelled shown={hole.name} maxLength={200} acts={(text) => put('name', text)} />
      </label>
      {hole.role === 'bolt' &&
        MORE.map(([field, words]) => (
          <span key={field} className="field">
            {words}, {face.unit}
            <Figure side={side} address={String(hole.n)} list={list} row={hole.n} mark={mark} field={field} words={words} shown={hole[field] ?? ''} unit={face.unit} />
          </span>
        ))}
      <label className="field">
        Source
        <SourceSelect id={id('source')} words={`${mark}, source`} labelled value={evidence.source} acts={(value) => put('evidence/source', value)} />
      </label>
      <label className="field">
        Tool
        <ToolSelect id={id('tool')} words={`${mark}, tool`} labelled value={evidence.tool} acts={(value) => put('evidence/tool', value || null)} />
      </label>
      <span className="field">
        ± of this hole, mm
        <FigureField id={id('pm')} label={`± of ${mark}, mm`} shown={evidence.pm ?? ''} kind="length" unit="mm" className="small" mayClear acts={(typed) => put('evidence/pm', typed || null)} />
      </span>
      <StateFields id={id('state')} state={evidence.state} of={mark} only={['position', 'gearbox']} acts={(field, value) => put(`evidence/state/${field}`, value)} />
      {hole.evidence === null || hole.evidence === undefined ? <span className="soft">as said for the face</span> : null}
      <label className="field note">
        Note
        <WordsField id={id('note')} words={`${mark}, note`} labelled shown={hole.note} acts={(text) => put('note', text)} />
      </label>
    </div>
  )
}

function HoleRow({ side, face, hole, index }: RowProps) {
  const { light } = useBuild()
  const desk = useDesk()
  const [more, setMore] = useState(false)
  const mark = markOf(side, hole)
  const list = `${side}_face.holes`
  const at = `/${side}_face/holes/${index}`
  const id = (field: string) => `${side}-${hole.n}-${field}`
  const put = (field: string, value: unknown): Act[] => [{ do: 'put', list, row: hole.n, field, value: value as never }]
  const setPins = (value: string): Act[] => [
    putInRow(at, hole.n, 'n', 'pin_in_casting', value === 'not said' ? null : value === 'casting' || value === 'both'),
    putInRow(at, hole.n, 'n', 'pin_in_plate', value === 'not said' ? null : value === 'plate' || value === 'both'),
  ]
  const remove = () => desk.choose({ field: `${side}-${hole.n}`, words: `${mark} removed`, text: 'removed', acts: [{ do: 'remove', list, row: hole.n }] })
  return (
    <Fragment>
      <tr onPointerEnter={() => light(`${side}.${hole.n}`)} onPointerLeave={() => light('')}>
        <th scope="row" className="mono">
          {mark.charAt(0)}
          <WordsField
            id={id('n')}
            words={`${mark}, number`}
            className="textcell whole"
            shown={String(hole.n)}
            check={(text) => (/^[1-9]\d{0,2}$/.test(text) ? '' : 'A hole has a number from 1 to 999.')}
            acts={(text) => [{ do: 'renumber', list, row: hole.n, to: Number(text) }]}
          />
          {hole.name && <span className="soft"> {hole.name}</span>}
        </th>
        {COLUMNS[hole.role].map(([field, words]) => (
          <FigureCell key={field} side={side} address={String(hole.n)} list={list} row={hole.n} mark={mark} field={field} words={words} kind={field === 'd' && hole.role === 'bolt' ? 'thread' : 'length'} shown={hole[field] ?? ''} unit={face.unit} />
        ))}
        <td>
          {hole.role === 'dowel' ? (
            <ChoiceField id={id('pins')} words={`${mark} pins`} shown={pins(hole)} choices={PINS} acts={setPins} />
          ) : (
            <ChoiceField id={id('fastening')} words={`${mark} fastening`} shown={hole.fastening ?? ''} choices={['', ...FASTENINGS]} acts={(value) => put('fastening', value || null)} />
          )}
        </td>
        {hole.role === 'bolt' && (
          <td>
            <ChoiceField id={id('backing')} words={`${mark}, what is behind`} shown={hole.backing} choices={BACKINGS} acts={(value) => put('backing', value)} />
          </td>
        )}
        <td>
          <button type="button" className="quiet" aria-expanded={more} aria-label={`More of ${mark}`} onClick={() => setMore(!more)}>
            {more ? 'less' : 'more'}
          </button>{' '}
          <button type="button" className="quiet" aria-label={`Remove ${mark}`} onClick={once(remove)}>
            remove
          </button>
        </td>
      </tr>
      {more && (
        <tr>
          <td colSpan={10}>
            <MoreOfHole side={side} face={face} hole={hole} index={index} />
          </td>
        </tr>
      )}
    </Fragment>
  )
}

function Holes({ side, face, role }: { side: Side; face: Face; role: Hole['role'] }) {
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
              <span className="visually-hidden">more, remove</span>
            </th>
          </tr>
        </thead>
        <tbody>{face.holes.map((h, i) => (h.role === role ? <HoleRow key={h.n} side={side} face={face} hole={h} index={i} /> : null))}</tbody>
      </table>
    </div>
  )
}

/** Metal of the casting's face without a hole: a rib's end, a nib. It belongs to the outline, and no head may sit under it. */
function OtherLands({ side, face }: { side: Side; face: Face }) {
  const desk = useDesk()
  if (face.lands.length === 0) return null
  const list = `${side}_face.lands`
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
          {face.lands.map((land) => {
            const mark = land.name || `land ${land.n}`
            return (
              <tr key={land.n}>
                <td>
                  <WordsField id={`${side}-land${land.n}-name`} words={`Name of ${mark}, ${side}`} className="textcell" shown={land.name} maxLength={200} acts={(text) => [{ do: 'put', list, row: land.n, field: 'name', value: text as never }]} />
                </td>
                {PLACE.map(([field, words]) => (
                  <FigureCell key={field} side={side} address={`land${land.n}`} list={list} row={land.n} mark={mark} field={field} words={words} shown={land[field] ?? ''} unit={face.unit} />
                ))}
                <td>
                  <button type="button" className="quiet" aria-label={`Remove ${mark}`} onClick={once(() => desk.choose({ field: `${side}-land${land.n}`, words: `${side} face, ${mark} removed`, text: 'removed', acts: [{ do: 'remove', list, row: land.n }] }))}>
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
  const { state, change } = useBuild()
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
  const put = (path: string) => (value: unknown) => [putAt(`${at}${path}`, value)]
  const add = (role: Hole['role']) => {
    const last = face.holes.findLast((h) => h.role === role)
    fresh.current = `${side}-${Math.max(0, ...face.holes.map((h) => h.n)) + 1}-u`
    // A pattern repeats its screws: size, land and fastening follow the hole before; the place is for the tape to say.
    const row = { role, d: last?.d ?? null, pitch: last?.pitch ?? null, land: last?.land ?? null, fastening: last?.fastening ?? null }
    return change([{ do: 'add', list: `${side}_face.holes`, row: row as never }], `${side} face, hole added`)
  }
  const addLand = () => change([{ do: 'add', list: `${side}_face.lands`, row: {} }], `${side} face, land added`)
  const words = `${face.holes.filter((h) => h.role === 'bolt').length} bolt holes, ${face.holes.filter((h) => h.role === 'dowel').length} dowels, ${face.lands.length > 0 ? `${face.lands.length} other land${face.lands.length > 1 ? 's' : ''}, ` : ''}taken ${face.taken_from === 'front' ? 'looking rearwards' : 'from behind, looking forwards'}, ${face.evidence.source}`
  const of = `${side} face`
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
              <ChoiceField
                id={`${side}-taken`}
                words={`${of}, side`}
                labelled
                shown={face.taken_from}
                choices={[
                  ['behind', 'from behind, looking forwards'],
                  ['front', 'from the front, looking rearwards (into a mouth)'],
                ]}
                acts={put('/taken_from')}
              />
            </label>
            <label className="field">
              Unit as typed
              <ChoiceField id={`${side}-unit`} words={`${of}, unit`} labelled shown={face.unit} choices={['mm', 'in']} acts={put('/unit')} />
            </label>
            <label className="field">
              Material
              <ChoiceField id={`${side}-material`} words={`${of}, material`} labelled shown={face.material} choices={['', ...MATERIALS]} acts={put('/material')} />
            </label>
            <span className="field">
              Flange at its screws, {face.unit}
              <FigureField id={`${side}-flange`} label={`Flange of the ${side}, ${face.unit}`} shown={face.flange ?? ''} kind="length" unit={face.unit} className="small" mayClear acts={(typed) => put('/flange')(typed || null)} />
            </span>
            <label className="field">
              Source
              <SourceSelect id={`${side}-source`} words={`${of}, source`} labelled value={face.evidence.source} acts={put('/evidence/source')} />
            </label>
            <label className="field">
              Tool
              <ToolSelect id={`${side}-tool`} words={`${of}, tool`} labelled value={face.evidence.tool} acts={(value) => put('/evidence/tool')(value || null)} />
            </label>
            <StateFields id={`${side}-state`} state={face.evidence.state} of={`${side} pattern`} only={['position', 'gearbox']} acts={(field, value) => put(`/evidence/state/${field}`)(value)} />
            <span className="field">
              ± of each coordinate, mm
              <FigureField id={`${side}-pm`} label={`± of the ${side} pattern, mm`} shown={face.evidence.pm ?? ''} kind="length" unit="mm" className="small" mayClear acts={(typed) => put('/evidence/pm')(typed || null)} />
            </span>
          </div>
          <Holes side={side} face={face} role="bolt" />
          <Holes side={side} face={face} role="dowel" />
          <OtherLands side={side} face={face} />
          <div className="actions">
            <Button variant="outlined" onClick={once(() => void add('bolt'))}>
              Add a hole
            </Button>
            <Button variant="outlined" onClick={once(() => void add('dowel'))}>
              Add a dowel
            </Button>
            <Button variant="outlined" onClick={once(() => void addLand())}>
              Add another land
            </Button>
          </div>
        </>
      )}
    </section>
  )
}

/** The hole tables of both castings. */
export function Faces() {
  return (
    <>
      <FacePanel side="engine" />
      <FacePanel side="gearbox" />
    </>
  )
}
