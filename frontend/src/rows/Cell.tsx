import type { Act, ColumnRow, ListRow } from '../api/types'
import { unitOf } from '../api/units'
import { ChoiceField } from '../entry/ChoiceField'
import { FigureField } from '../entry/FigureField'
import { useDesk } from '../entry/useDesk'
import { WordsField } from '../entry/WordsField'
import { sourceClass } from '../ledger/source'
import { useBuild } from '../shell/buildContext'
import { checkNumbers, checkWhole } from './cells'
import type { AnyRow } from './rows'

interface CellProps {
  list: ListRow
  column: ColumnRow
  row: AnyRow
}

/** One cell: a figure, a choice, a yes, whole numbers or words. */
export function Cell({ list, column, row }: CellProps) {
  const desk = useDesk()
  const { catalogue } = useBuild()
  const value = row[column.field]
  const id = `${list.key}-${row.n}-${column.field}`
  const unit = unitOf(column.kind, 'mm')
  const words = `${list.one} ${row.n}, ${column.label}${unit ? `, ${unit}` : ''}`
  const put = (to: unknown): Act[] => [{ do: 'put', list: list.key, row: row.n, field: column.field, value: to as never }]
  if (column.kind === 'choice') return <ChoiceField id={id} words={words} shown={String(value ?? '')} choices={column.choices} record={list.record} acts={put} />
  if (column.kind === 'yes')
    return <input id={id} type="checkbox" aria-label={words} checked={(desk.held(id)?.text ?? (value === true ? 'yes' : '')) === 'yes'} onChange={(e) => desk.choose({ field: id, words, text: e.target.checked ? 'yes' : '', acts: put(e.target.checked) })} />
  if (column.kind === 'whole') return <WordsField id={id} words={words} className="textcell whole" shown={value == null ? '' : String(value)} check={checkWhole} acts={(text) => put(text.trim() === '' ? null : Number(text))} />
  if (column.kind === 'numbers') return <WordsField id={id} words={words} className="textcell numbers" shown={(value as number[] | undefined)?.join(', ') ?? ''} check={checkNumbers} acts={(text) => put((text.match(/\d+/g) ?? []).map(Number))} />
  if (column.kind === 'words') {
    const keys = new Map(catalogue.questions.map((q) => [q.name, q.key]))
    const named = new Map(catalogue.questions.map((q) => [q.key, q.name]))
    const shown = ((value as string[] | undefined) ?? []).map((k) => named.get(k) ?? k).join('; ')
    const list_ = (text: string) => text.split(';').map((w) => w.trim()).filter(Boolean)
    return (
      <>
        <WordsField id={id} words={words} className="textcell" shown={shown} acts={(text) => put(list_(text).map((w) => keys.get(w) ?? w))} />
      </>
    )
  }
  if (column.kind === 'text') return <WordsField id={id} words={words} className="textcell" shown={value == null ? '' : String(value)} acts={put} />
  const stands = value == null ? '' : String(value)
  const acts = (typed: string): Act[] => [{ do: 'cell', list: list.key, row: row.n, field: column.field, typed: typed || null, tool: (desk.now().tool || null) as null }]
  return (
    <FigureField
      id={id}
      label={words}
      shown={stands}
      kind={column.kind}
      unit={unit}
      className={`cell ${sourceClass(row.said?.[column.field]?.source ?? row.evidence?.source)} ${value ? '' : column.needed ? 'none' : 'optional'}`}
      mayClear
      acts={acts}
    />
  )
}
