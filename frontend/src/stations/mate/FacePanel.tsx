import Button from '@mui/material/Button'
import { useState } from 'react'
import type { Face, Hole, Op } from '../../api/types'
import { FigureField } from '../../ledger/FigureField'
import { useBuild } from '../../shell/buildContext'

type Side = 'engine' | 'gearbox'
const FASTENINGS = ['countersunk', 'cap head', 'hex head', 'tapped', 'nut'] as const
const BACKINGS = ['metal', 'air', 'oil', 'water', 'unknown'] as const
const FIGURES = [
  ['u', 'across'],
  ['v', 'up'],
  ['d', 'size'],
  ['land', 'land'],
  ['plate_hole', 'plate hole'],
  ['recess', 'recess'],
] as const

const pins = (h: Hole): string => {
  if (h.role !== 'dowel') return ''
  if (h.pin_in_casting == null || h.pin_in_plate == null) return 'not said'
  return h.pin_in_casting ? (h.pin_in_plate ? 'both' : 'casting') : h.pin_in_plate ? 'plate' : 'none'
}

function HoleRow({ side, face, hole, index, set }: { side: Side; face: Face; hole: Hole; index: number; set: (ops: Op[], why: string) => Promise<string | null> }) {
  const { light, assessment } = useBuild()
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
      {FIGURES.map(([field, words]) => (
        <td key={field} data-unmeasured={(field === 'u' || field === 'v' || field === 'd') && assessment.quantities[`${side}.${hole.n}.${field}`]?.value == null}>
          <FigureField id={`${side}-${hole.n}-${field}`} label={`${mark} ${words}, ${face.unit}`} shown={hole[field] ?? ''} kind="length" unit={face.unit} className={hole[field] ? 'cell' : 'cell none'} mayClear={field !== 'u' && field !== 'v' && field !== 'd'} commit={(typed) => put(field, typed === '' ? null : typed)} />
        </td>
      ))}
      <td>
        {hole.role === 'dowel' ? (
          <select aria-label={`${mark} pins`} value={pins(hole)} onChange={(e) => void setPins(e.target.value)}>
            {['not said', 'none', 'casting', 'plate', 'both'].map((x) => (
              <option key={x} value={x}>
                pin: {x}
              </option>
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
      <td>
        <select aria-label={`${mark}, what is behind`} value={hole.backing} onChange={(e) => void put('backing', e.target.value)}>
          {BACKINGS.map((x) => (
            <option key={x}>{x}</option>
          ))}
        </select>
      </td>
      <td>
        <button type="button" className="quiet" aria-label={`Remove ${mark}`} onClick={() => void set([{ op: 'remove', path: at }], `${mark} removed`)}>
          remove
        </button>
      </td>
    </tr>
  )
}

/** One casting's holes by coordinates, as they were taken: side, unit and evidence are said once for the face. */
export function FacePanel({ side }: { side: Side }) {
  const { state, catalogue, change } = useBuild()
  const [open, setOpen] = useState(false)
  const face = side === 'engine' ? state.document.engine_face : state.document.gearbox_face
  const at = `/${side}_face`
  const put = (path: string, value: unknown, why: string) => change([{ op: 'add', path: `${at}${path}`, value }], `${side} face, ${why}`)
  const add = (role: 'bolt' | 'dowel') => {
    const n = Math.max(0, ...face.holes.map((h) => h.n)) + 1
    const last = face.holes.findLast((h) => h.role === role)
    const hole = { n, role, u: '0', v: '0', d: last?.d ?? (face.unit === 'in' ? '3/8' : '10'), land: last?.land ?? null, fastening: last?.fastening ?? null, backing: 'unknown' }
    return change([{ op: 'add', path: `${at}/holes/-`, value: hole }], `${side} face, hole ${n} added`)
  }
  const words = `${face.holes.filter((h) => h.role === 'bolt').length} bolt holes, ${face.holes.filter((h) => h.role === 'dowel').length} dowels, taken ${face.taken_from === 'front' ? 'looking rearwards' : 'from behind, looking forwards'}, ${face.evidence.source}`
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
              <select value={face.evidence.source} onChange={(e) => void put('/evidence/source', e.target.value, 'source')}>
                {catalogue.sources.map((x) => (
                  <option key={x}>{x}</option>
                ))}
              </select>
            </label>
            <label className="field">
              Tool
              <select value={face.evidence.tool ?? ''} onChange={(e) => void put('/evidence/tool', e.target.value || null, 'tool')}>
                <option value="">none said</option>
                {catalogue.tools.map((x) => (
                  <option key={x}>{x}</option>
                ))}
              </select>
            </label>
            <span className="field">
              ± of each coordinate, mm
              <FigureField id={`${side}-pm`} label={`± of the ${side} pattern, mm`} shown={face.evidence.pm ?? ''} kind="length" unit="mm" className="small" mayClear commit={(typed) => put('/evidence/pm', typed || null, '±')} />
            </span>
          </div>
          <div className="tablescroll" tabIndex={0}>
            <table className="holes">
              <thead>
                <tr>
                  <th>hole</th>
                  {FIGURES.map(([f, name]) => (
                    <th key={f}>
                      {name}, {face.unit}
                    </th>
                  ))}
                  <th>fastened by</th>
                  <th>behind it</th>
                  <th>
                    <span className="visually-hidden">remove</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {face.holes.map((h, i) => (
                  <HoleRow key={h.n} side={side} face={face} hole={h} index={i} set={change} />
                ))}
              </tbody>
            </table>
          </div>
          <div className="actions">
            <Button variant="outlined" onClick={() => void add('bolt')}>
              Add a hole
            </Button>
            <Button variant="outlined" onClick={() => void add('dowel')}>
              Add a dowel
            </Button>
          </div>
        </>
      )}
    </section>
  )
}
