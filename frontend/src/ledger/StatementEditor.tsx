import Button from '@mui/material/Button'
import { useState } from 'react'
import type { Act, DimensionRow, Statement } from '../api/types'
import { putAt, putInRow, removeStatement } from '../entry/acts'
import { FigureField } from '../entry/FigureField'
import { useDesk } from '../entry/useDesk'
import { WordsField } from '../entry/WordsField'
import { useBuild } from '../shell/buildContext'
import { useSettings } from '../shell/settings'
import { NOT_OF_PAPER, SourceSelect, ToolSelect } from './EvidenceSelects'
import { StateFields } from './StateFields'
import './ledger.css'

interface Props {
  row: DimensionRow
  unit: string
}

function StatementRow({ row, unit, statement: s, index }: Props & { statement: Statement; index: number }) {
  const { state, assessment, change } = useBuild()
  const desk = useDesk()
  const dimension = state.document.dims[row.key]
  const standing = assessment.quantities[row.key]
  const stands = standing?.statement === s.id && !s.lapsed && standing.value != null
  const id = `${row.key}-${s.id}`
  const put = (field: string, value: unknown): Act[] => [putInRow(`/dims/${row.key}/statements/${index}`, s.id, 'id', field, value)]
  const chosen = dimension?.chosen === s.id
  return (
    <div className={`statement ${s.lapsed ? 'lapsed' : ''}`}>
      <span className="takes">
        {s.takes.map((t, j) => (
          <span key={j} className="mono take">
            {t.typed}
          </span>
        ))}
        {s.lapsed && <span className="tight">lapsed: {s.lapsed.event}</span>}
        {stands && <b>stands{standing.scatter == null ? '' : `, scatter ${standing.scatter.toFixed(3)} ${row.unit}`}</b>}
      </span>
      <label className="field">
        Source
        <SourceSelect id={`source-${id}`} words={`${row.name}, source`} labelled value={s.source} sourced={row.sourced} acts={(value) => put('source', value)} />
      </label>
      {s.source.startsWith('measured') && (
        <label className="field">
          Tool
          <ToolSelect id={`tool-${id}`} words={`${row.name}, tool`} labelled kind={row.kind} value={s.tool} acts={(value) => put('tool', value || null)} />
        </label>
      )}
      <span className="field">
        ± {row.unit}
        <FigureField id={`pm-${id}`} label={`± of ${row.name}, ${s.source}`} shown={s.pm ?? ''} kind={row.kind} unit={row.unit} className="small" mayClear acts={(typed) => put('pm', typed || null)} />
      </span>
      <span className="field">
        Another take
        <FigureField id={`take-${id}`} label={`Another take of ${row.name}`} shown="" kind={row.kind} unit={unit} dimension={row.key} className="small" acts={(typed) => put('takes/-', { typed, unit: unit || null, at: new Date().toISOString() })} />
      </span>
      <label className="field note">
        Note
        <WordsField id={`note-${id}`} words={`${row.name}, note`} labelled shown={s.note} acts={(text) => put('note', text)} />
      </label>
      {s.source.startsWith('measured') && <StateFields id={`state-${id}`} state={s.state} of={`${row.name}, ${s.id}`} acts={(field, value) => put(`state/${field}`, value)} />}
      <span className="actions">
        {(dimension?.statements.length ?? 0) > 1 && (
          <Button variant="outlined" onClick={() => desk.enter({ field: `chosen-${row.key}`, words: `${row.name}: ${chosen ? 'the ladder decides' : `chosen ${s.source}`}`, text: s.id, acts: [putAt(`/dims/${row.key}/chosen`, chosen ? null : s.id)] })}>
            {chosen ? 'Chosen; let the ladder decide' : 'Choose this'}
          </Button>
        )}
        <Button variant="outlined" onClick={() => void change([removeStatement(row.key, index, s.id, dimension?.chosen)], `${row.name}: statement removed`)}>
          Remove
        </Button>
      </span>
    </div>
  )
}

/** All that was ever said of one dimension: takes, source, tool, ±, note; another statement, and which one stands. */
export default function StatementEditor({ row, unit }: Props) {
  const { catalogue, state, assessment } = useBuild()
  const { who } = useSettings()
  const desk = useDesk()
  const statements = state.document.dims[row.key]?.statements ?? []
  const sources = catalogue.sources.filter((s) => !row.sourced || !NOT_OF_PAPER.includes(s))
  const [source, setSource] = useState(row.sourced ? "maker's paper" : 'drawing')
  const said = (typed: string): Act[] => [{ do: 'read', key: row.key, typed, unit: unit || null, source: source as 'drawing', tool: (desk.now().tool || null) as null }]
  return (
    <div className="statements">
      {assessment.quantities[row.key]?.status === 'question' && (
        <p className="tight">
          {assessment.quantities[row.key]?.detail}{' '}
          <Button variant="outlined" onClick={() => desk.enter({ field: `sure-${row.key}`, words: `${row.name}: it is so`, text: 'it is so', acts: [putAt(`/dims/${row.key}/sure`, who ? `${who} says that it is so` : 'said to be so')] })}>
            It is so
          </Button>
        </p>
      )}
      {statements.map((s, i) => (
        <StatementRow key={s.id} row={row} unit={unit} statement={s} index={i} />
      ))}
      <div className="statement new">
        <label className="field">
          Another statement, from
          <select value={source} onChange={(e) => setSource(e.target.value)}>
            {sources.map((s) => (
              <option key={s}>{s}</option>
            ))}
          </select>
        </label>
        <span className="field">
          says
          <FigureField id={`new-${row.key}`} label={`Another statement of ${row.name}`} shown="" kind={row.kind} unit={unit} dimension={row.key} className="small" acts={said} />
        </span>
        <span className="soft">{row.how}</span>
      </div>
    </div>
  )
}
