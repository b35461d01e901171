import Button from '@mui/material/Button'
import { useState } from 'react'
import type { DimensionRow } from '../api/types'
import { useBuild } from '../shell/buildContext'
import { addStatement, addTake, choose, removeStatement, setStatementField } from '../shell/patches'
import { SourceSelect, ToolSelect } from './EvidenceSelects'
import { FigureField } from './FigureField'
import { StateFields } from './StateFields'

/** All that was ever said of one dimension: takes, source, tool, ±, note; another statement, and which one stands. */
export function StatementEditor({ row, unit }: { row: DimensionRow; unit: string }) {
  const { state, assessment, change, enter } = useBuild()
  const dimension = state.document.dims[row.key]
  const statements = dimension?.statements ?? []
  const standing = assessment.quantities[row.key]
  const [source, setSource] = useState('drawing')
  const edit = (index: number, field: 'source' | 'tool' | 'pm' | 'note', value: string) => (field === 'note' ? change : enter)(setStatementField(row.key, index, field, value), `${row.name}, ${field}`)
  return (
    <div className="statements">
      {statements.map((s, i) => (
        <div key={s.id} className={`statement ${s.lapsed ? 'lapsed' : ''}`}>
          <span className="takes">
            {s.takes.map((t, j) => (
              <span key={j} className="mono take">
                {t.typed}
              </span>
            ))}
            {s.lapsed && <span className="tight">lapsed: {s.lapsed.event}</span>}
            {standing?.statement === s.id && !s.lapsed && standing.value != null && <b>stands{standing.scatter == null ? '' : `, scatter ${standing.scatter.toFixed(3)} ${row.unit}`}</b>}
          </span>
          <label className="field">
            Source
            <SourceSelect value={s.source} put={(value) => void edit(i, 'source', value)} />
          </label>
          <label className="field">
            Tool
            <ToolSelect value={s.tool} put={(value) => void edit(i, 'tool', value)} />
          </label>
          <span className="field">
            ± {row.unit}
            <FigureField id={`pm-${row.key}-${s.id}`} label={`± of ${row.name}, ${s.source}`} shown={s.pm ?? ''} kind={row.kind} unit={row.unit} className="small" mayClear commit={(typed) => edit(i, 'pm', typed)} />
          </span>
          <span className="field">
            Another take
            <FigureField id={`take-${row.key}-${s.id}`} label={`Another take of ${row.name}`} shown="" kind={row.kind} unit={unit} className="small" commit={(typed) => change(addTake(row.key, i, typed, unit), `${row.name}, another take`)} />
          </span>
          <label className="field note">
            Note
            <input key={s.note} defaultValue={s.note} maxLength={2000} onBlur={(e) => e.target.value !== s.note && void edit(i, 'note', e.target.value)} />
          </label>
          {s.source.startsWith('measured') && <StateFields state={s.state} of={`${row.name}, ${s.id}`} put={(field, value) => change([{ op: 'add', path: `/dims/${row.key}/statements/${i}/state/${field}`, value }], `${row.name}, state of the reading`)} />}
          <span className="actions">
            {statements.length > 1 && (
              <Button variant="outlined" onClick={() => void change(choose(row.key, dimension?.chosen === s.id ? null : s.id), `${row.name}: chosen ${s.source}`)}>
                {dimension?.chosen === s.id ? 'Chosen; let the ladder decide' : 'Choose this'}
              </Button>
            )}
            <Button variant="outlined" onClick={() => void change(removeStatement(state.document, row.key, i), `${row.name}: statement removed`)}>
              Remove
            </Button>
          </span>
        </div>
      ))}
      <div className="statement new">
        <label className="field">
          Another statement, from
          <SourceSelect value={source} put={setSource} />
        </label>
        <span className="field">
          says
          <FigureField id={`new-${row.key}`} label={`Another statement of ${row.name}`} shown="" kind={row.kind} unit={unit} className="small" commit={(typed, isWord) => change(addStatement(state.document, row.key, typed, unit, isWord ? 'eye word' : source, source === 'measured' ? row.tool : ''), `${row.name}: ${source}`)} />
        </span>
        <span className="soft">{row.how}</span>
      </div>
    </div>
  )
}
