import type { Act } from '../api/types'
import { ChoiceField } from '../entry/ChoiceField'
import { FigureField } from '../entry/FigureField'
import { useDesk } from '../entry/useDesk'
import { WordsField } from '../entry/WordsField'
import { SourceSelect, ToolSelect } from '../ledger/EvidenceSelects'
import { StateFields } from '../ledger/StateFields'
import { Pinned } from '../photos/Pinned'
import { BORE, letterOf, LIES, MORE, type FaceOf, type Hole } from './holes'

/** What a hole has beside its line: a nickname, its thread, the flange, where its figures come from. */
export function MoreOfHole({ of: { side, face, list: lists, of, address }, hole }: { of: FaceOf; hole: Hole }) {
  const desk = useDesk()
  const mark = `${letterOf(side)}${hole.n}`
  const list = `${lists}.holes`
  const put = (field: string, value: unknown): Act[] => [{ do: 'put', list, of, row: hole.n, field, value: value as never }]
  const cell = (field: string) => (typed: string): Act[] => [{ do: 'cell', list, of, row: hole.n, field, typed: typed || null, tool: (desk.now().tool || null) as null }]
  const evidence = hole.evidence ?? face.evidence
  const id = (field: string) => `${address(hole.n).replaceAll('.', '-')}-${field}`
  return (
    <div className="options">
      <label className="field">
        Called
        <WordsField id={id('name')} words={`${mark}, called`} labelled shown={hole.name} maxLength={200} acts={(text) => put('name', text)} />
      </label>
      {(hole.role === 'bolt' ? MORE : BORE).map(([field, words]) => (
        <span key={field} className="field">
          {words}, {face.unit}
          <FigureField id={id(field)} label={`${mark} ${words}, ${face.unit}`} shown={hole[field] ?? ''} kind="length" unit={face.unit} className={hole[field] ? 'cell' : 'cell none'} mayClear acts={cell(field)} />
        </span>
      ))}
      <label className="field">
        lies, of the crank axis
        <ChoiceField id={id('lies')} words={`${mark}, lies`} labelled shown={hole.lies} choices={LIES} acts={(value) => put('lies', value)} />
      </label>
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
      <Pinned address={address(hole.n)} of={mark} />
      <label className="field note">
        Note
        <WordsField id={id('note')} words={`${mark}, note`} labelled shown={hole.note} acts={(text) => put('note', text)} />
      </label>
    </div>
  )
}
