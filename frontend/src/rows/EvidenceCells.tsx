import type { Act, ListRow } from '../api/types'
import { putInRow } from '../entry/acts'
import { FigureField } from '../entry/FigureField'
import { SourceSelect, ToolSelect } from '../ledger/EvidenceSelects'
import { useBuild } from '../shell/buildContext'
import type { AnyRow } from './rows'

/** Where the figures of a row come from. */
export default function EvidenceCells({ list, row, at }: { list: ListRow; row: AnyRow; at: string }) {
  const { state, change } = useBuild()
  const one = list.one.toLowerCase()
  const id = (field: string) => `${list.key}-${row.n}-${field}`
  const put = (field: string, value: unknown): Act[] => [{ do: 'put', list: list.key, row: row.n, field: `evidence/${field}`, value: value as never }]
  // A lapsed row counts again once it was read again, in the state that the unit is in now.
  const readAgain = () => void change([putInRow(at, row.n, 'n', 'evidence/lapsed', null), putInRow(at, row.n, 'n', 'evidence/state', state.document.state)], `${list.one} ${row.n}, read again`)
  const own = Object.keys(row.said ?? {}).length
  return (
    <>
      <td>
        <SourceSelect id={id('source')} words={`${list.one} ${row.n}, source`} value={row.evidence?.source} acts={(value) => put('source', value)} />
        {own > 0 && <span className="soft"> {own} read since</span>}
        {row.evidence?.lapsed && (
          <>
            <span className="tight"> lapsed: {row.evidence.lapsed.event}</span>{' '}
            <button type="button" className="quiet" onClick={readAgain}>
              read again<span className="visually-hidden"> {one} {row.n}</span>
            </button>
          </>
        )}
      </td>
      <td>
        <ToolSelect id={id('tool')} words={`${list.one} ${row.n}, tool`} value={row.evidence?.tool} acts={(value) => put('tool', value || null)} />
      </td>
      <td>
        <FigureField id={id('pm')} label={`± of ${one} ${row.n}, mm`} shown={row.evidence?.pm ?? ''} kind="length" unit="mm" className="small" mayClear acts={(typed) => put('pm', typed || null)} />
      </td>
    </>
  )
}
