import type { Act } from '../api/types'
import { ChoiceField } from '../entry/ChoiceField'
import { FigureField } from '../entry/FigureField'
import { useDesk } from '../entry/useDesk'
import { WordsField } from '../entry/WordsField'
import { sourceClass } from '../ledger/source'
import { useBuild } from '../shell/buildContext'
import { checkNumbers, checkWhole, type TableColumn } from './cells'
import './rows.css'

interface Props {
  list: string
  /** The row that it is a part of, by number. */
  of?: number
  row: number
  column: TableColumn
  value: unknown
  id: string
  /** What the cell is called, with its unit. */
  words: string
  unit: string
  /** Where its figure comes from. */
  source: string | undefined
  /** What stands where nothing is typed, worked out from other readings, as it would be typed. */
  worked?: number | null
  /** A fact of record: stored at once, whatever is being tried. */
  record: boolean
}

/** One cell: a figure, a choice, a yes, whole numbers or words. */
export default function Cell({ list, of, row, column, value, id, words, unit, source, worked, record }: Props) {
  const desk = useDesk()
  const put = (to: unknown): Act[] => [{ do: 'put', list, of, row, field: column.field, value: to as never }]
  const shown = value == null ? '' : String(value)
  if (column.kind === 'choice') return <ChoiceField id={id} words={words} shown={shown} choices={column.choices} record={record} acts={(to) => put(to === '' && column.nullable ? null : to)} />
  if (column.kind === 'yes')
    return <input id={id} type="checkbox" aria-label={words} checked={(desk.held(id)?.text ?? (value === true ? 'yes' : '')) === 'yes'} onChange={(e) => desk.choose({ field: id, words, text: e.target.checked ? 'yes' : '', acts: put(e.target.checked) })} />
  if (column.kind === 'whole') return <WordsField id={id} words={words} className="textcell whole" shown={shown} check={checkWhole} acts={(text) => put(text.trim() === '' ? null : Number(text))} />
  if (column.kind === 'numbers') return <WordsField id={id} words={words} className="textcell numbers" shown={(value as number[] | undefined)?.join(', ') ?? ''} check={checkNumbers} acts={(text) => put((text.match(/\d+/g) ?? []).map(Number))} />
  if (column.kind === 'words') return <WatchesCell id={id} words={words} value={value} put={put} />
  if (column.kind === 'text') return <WordsField id={id} words={words} className="textcell" shown={shown} acts={put} />
  const acts = (typed: string): Act[] => [{ do: 'cell', list, of, row, field: column.field, typed: typed || null, tool: (desk.now().tool || null) as null }]
  const given = shown === '' && worked != null ? `≈ ${worked.toFixed(1)}` : ''
  return <FigureField id={id} label={words} shown={shown} kind={column.kind} unit={unit} className={`cell ${sourceClass(source)} ${shown ? '' : column.needed ? 'none' : 'optional'}`} mayClear given={given} acts={acts} />
}

/** Questions by name, divided by semicolons. */
function WatchesCell({ id, words, value, put }: { id: string; words: string; value: unknown; put: (to: unknown) => Act[] }) {
  const { catalogue } = useBuild()
  const keys = new Map(catalogue.questions.map((q) => [q.name, q.key]))
  const named = new Map(catalogue.questions.map((q) => [q.key, q.name]))
  const shown = ((value as string[] | undefined) ?? []).map((k) => named.get(k) ?? k).join('; ')
  const parts = (text: string) => text.split(';').map((w) => w.trim()).filter(Boolean)
  return <WordsField id={id} words={words} className="textcell" shown={shown} acts={(text) => put(parts(text).map((w) => keys.get(w) ?? w))} />
}
