import { putAt } from '../entry/acts'
import { ChoiceField } from '../entry/ChoiceField'
import { FigureField } from '../entry/FigureField'
import { SourceSelect, ToolSelect } from '../ledger/EvidenceSelects'
import { StateFields } from '../ledger/StateFields'
import type { FaceOf } from './holes'

const MATERIALS = ['', 'aluminium', 'cast iron', 'steel']
const SIDES = [
  ['behind', 'from behind, looking forwards'],
  ['front', 'from the front, looking rearwards (into a mouth)'],
] as const

/** What is said once for a casting: from where and in which unit its holes were taken, and with what. */
export function FaceOptions({ of: { face, at, called } }: { of: FaceOf }) {
  const put = (path: string) => (value: unknown) => [putAt(`${at}${path}`, value)]
  const of = `${called} face`
  const id = (field: string) => `${at.slice(1).replaceAll('/', '-').replace('_face', '')}-${field}`
  return (
    <div className="options">
      <label className="field">
        Taken
        <ChoiceField id={id('taken')} words={`${of}, side`} labelled shown={face.taken_from} choices={SIDES} acts={put('/taken_from')} />
      </label>
      <label className="field">
        Unit as typed
        <ChoiceField id={id('unit')} words={`${of}, unit`} labelled shown={face.unit} choices={['mm', 'in']} acts={put('/unit')} />
      </label>
      <label className="field">
        Material
        <ChoiceField id={id('material')} words={`${of}, material`} labelled shown={face.material} choices={MATERIALS} acts={put('/material')} />
      </label>
      <span className="field">
        Flange at its screws, {face.unit}
        <FigureField id={id('flange')} label={`Flange of the ${called}, ${face.unit}`} shown={face.flange ?? ''} kind="length" unit={face.unit} className="small" mayClear acts={(typed) => put('/flange')(typed || null)} />
      </span>
      <span className="field">
        Register or bore on the axis, {face.unit}
        <FigureField id={id('register')} label={`Register of the ${called}, ${face.unit}`} shown={face.register_d ?? ''} kind="length" unit={face.unit} className="small" mayClear acts={(typed) => put('/register_d')(typed || null)} />
      </span>
      <label className="field">
        Source
        <SourceSelect id={id('source')} words={`${of}, source`} labelled value={face.evidence.source} acts={put('/evidence/source')} />
      </label>
      <label className="field">
        Tool
        <ToolSelect id={id('tool')} words={`${of}, tool`} labelled value={face.evidence.tool} acts={(value) => put('/evidence/tool')(value || null)} />
      </label>
      <StateFields id={id('state')} state={face.evidence.state} of={`${called} pattern`} only={['position', 'gearbox']} acts={(field, value) => put(`/evidence/state/${field}`)(value)} />
      <span className="field">
        ± of each coordinate, mm
        <FigureField id={id('pm')} label={`± of the ${called} pattern, mm`} shown={face.evidence.pm ?? ''} kind="length" unit="mm" className="small" mayClear acts={(typed) => put('/evidence/pm')(typed || null)} />
      </span>
    </div>
  )
}
