import { useState } from 'react'
import type { BoardTable, System, Verdict } from '../api/types'
import { figure, unitOf } from '../api/units'
import { VerdictGlyph } from '../findings/VerdictGlyph'
import { useBuild } from '../shell/buildContext'
import { openFinding, useLooked } from '../shell/looked'
import './question.css'

type Column = BoardTable['columns'][number]
type Cell = BoardTable['rows'][number]['cells'][number]

/** A figure with so many decimals in the base unit as its column asks. */
const number = (value: number, column: Column, system: System) => (column.kind === '' ? String(value) : figure(value, column.kind, system, column.places === 0 ? 10 : column.places === 1 ? 1 : undefined))

function words(cell: Cell, column: Column, system: System): string {
  if (cell == null) return ''
  if (typeof cell === 'string') return cell
  if (typeof cell === 'number') return number(cell, column, system)
  return cell.map((x) => (typeof x === 'number' ? number(x, column, system) : x)).join(' · ') || 'none'
}

const head = (c: Column, system: System) => {
  const unit = c.kind === '' ? '' : unitOf(c.kind, system)
  return unit === '' ? c.label : `${c.label}, ${unit}`
}

/** A table of a board: figures that follow from the numbers; a row leads to its finding. */
export function TableView({ table }: { table: BoardTable }) {
  const { system } = useBuild()
  const open = useLooked((l) => l.finding)
  const [whole, setWhole] = useState(false)
  if (table.rows.length === 0) return null
  const cut = table.first > 0 && table.rows.length > table.first
  const rows = cut && !whole ? table.rows.slice(0, table.first) : table.rows
  const marked = table.rows.some((r) => r.mark !== '')
  // A column that nothing stands in takes no room.
  const columns = table.columns.map((c, i) => ({ c, i })).filter(({ i }) => table.rows.some((r) => r.cells[i] != null && r.cells[i] !== ''))
  return (
    <section aria-label={table.title}>
      <div className="panelhead">
        <h2>{table.title}</h2>
        <span className="soft">{table.note}</span>
        {cut && (
          <button type="button" className="quiet" aria-expanded={whole} onClick={() => setWhole(!whole)}>
            {whole ? `only ${table.first}` : `all ${table.rows.length}`}
          </button>
        )}
      </div>
      <div className="tablescroll" tabIndex={0}>
        <table className="figures">
          <thead>
            <tr>
              {marked && (
                <th>
                  <span className="visually-hidden">verdict</span>
                </th>
              )}
              {columns.map(({ c }) => (
                <th key={c.key}>{head(c, system)}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, at) => (
              <tr key={at} className={row.finding !== '' && open === row.finding ? 'lit' : ''}>
                {marked && <td>{row.mark !== '' && <VerdictGlyph verdict={row.mark as Verdict} small />}</td>}
                {columns.map(({ c, i }, place) => {
                  const text = words(row.cells[i] ?? null, c, system)
                  if (place > 0) return <td key={c.key} className={c.kind === '' ? '' : 'mono'}>{text}</td>
                  return (
                    <th key={c.key} scope="row">
                      {row.finding ? (
                        <button type="button" className="quiet" onClick={() => openFinding(row.finding)}>
                          {text}
                        </button>
                      ) : (
                        text
                      )}
                    </th>
                  )
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}
