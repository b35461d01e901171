import Button from '@mui/material/Button'
import Drawer from '@mui/material/Drawer'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { queries } from '../api/client'
import type { Act, Catalogue, TableLine } from '../api/types'
import { useDesk } from '../entry/useDesk'
import { useBuild } from '../shell/buildContext'
import { broughtNow, LEDGER } from './brought'
import './tray.css'

const FACES = [
  ['engine_face.holes', 'Holes of the engine'],
  ['gearbox_face.holes', 'Holes of the gearbox'],
] as const

/** New rows of one list go together: one act for all of them. */
export function together(lines: readonly TableLine[]): Act[] {
  const acts = lines.flatMap((l) => (l.act ? [l.act as Act] : []))
  const rows = acts.filter((a) => a.do === 'add')
  const list = rows[0]?.list
  return [...acts.filter((a) => a.do !== 'add'), ...(list === undefined ? [] : [{ do: 'rows', list, rows: rows.map((a) => a.row ?? {}) } as Act])]
}

/** What each line would be read as: those with a mark are taken. */
function Preview({ lines, left, leave }: { lines: readonly TableLine[]; left: ReadonlySet<number>; leave: (at: number, out: boolean) => void }) {
  return (
    <table className="preview" aria-label="What it is read as">
      <thead>
        <tr>
          <th>take</th>
          <th>line</th>
          <th>as it came</th>
          <th>goes to</th>
          <th>is read as</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((l, i) => (
          <tr key={i} className={l.wrong ? 'refused' : ''}>
            <td>{l.act ? <input type="checkbox" aria-label={`Take line ${l.number}, ${l.to}`} checked={!left.has(i)} onChange={(e) => leave(i, !e.target.checked)} /> : null}</td>
            <td className="mono">{l.number}</td>
            <td className="mono came">{l.text}</td>
            <td>{l.to}</td>
            <td>{l.wrong ? <span className="fouls">{l.wrong}</span> : l.reads}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** Tables in and out: a column or a table from a spreadsheet, a text or a file, looked at line by line before anything is entered. */
export function TablePanel({ question, close }: { question: string; close: () => void }) {
  const { state, catalogue, change } = useBuild()
  const desk = useDesk()
  const brought = broughtNow()
  const [text, setText] = useState(brought.text)
  const [file, setFile] = useState<File | null>(null)
  const [into, setInto] = useState(brought.into)
  const [source, setSource] = useState('')
  const [unit, setUnit] = useState('')
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set())
  const [wrong, tell] = useState('')
  const content = file ?? (text.trim() === '' ? null : new Blob([text]))
  const read = useQuery({
    ...queries.table(state.id, { into, question, start: into === brought.into ? brought.start : '', source, unit }, content, `${state.tag} ${file ? `${file.name} ${file.size} ${file.lastModified}` : text}`),
    enabled: content !== null,
  })
  const lines = read.data?.lines ?? []
  const taken = lines.filter((l, i) => l.act && !left.has(i))
  const refused = lines.filter((l) => l.wrong)
  const take = async () => {
    const said = await change(together(taken), `${lines.length} lines from a table`)
    if (said !== null) {
      tell(said)
      return
    }
    desk.lay(refused.map((l) => ({ text: (l.typed || l.text).slice(0, 120), why: l.typed ? `${l.text}: ${l.wrong}` : l.wrong, from: 'table', to: l.key })))
    close()
  }
  const fresh = (act: () => void) => {
    act()
    setLeft(new Set())
    tell('')
  }
  return (
    <Drawer anchor="right" open onClose={close} slotProps={{ paper: { 'aria-label': 'Tables in and out', role: 'dialog' } }}>
      <div className="tables">
        <div className="panelhead">
          <h2>Tables in and out</h2>
          <Button variant="outlined" onClick={close}>
            Close
          </Button>
        </div>
        <p>
          Out, as it was typed: <a href={`/api/builds/${state.id}/ledger.csv`}>every reading of the ledger (CSV)</a>
          {into !== LEDGER && (
            <>
              , <a href={`/api/builds/${state.id}/lists/${into}.csv`}>this list (CSV)</a>
            </>
          )}
        </p>
        <div className="options">
          <label className="field">
            Goes into
            <select value={into} onChange={(e) => fresh(() => setInto(e.target.value))}>
              <option value={LEDGER}>the ledger, readings of sizes</option>
              {[...FACES, ...catalogue.lists.map((l) => [l.key, l.title] as const)].map(([key, title]) => (
                <option key={key} value={key}>
                  {title}
                </option>
              ))}
            </select>
          </label>
          <Choice label="Its figures are" value={source} set={(v) => fresh(() => setSource(v))} choices={[['', 'as it says, else measured elsewhere'], ['measured', 'measured here, now'], ...catalogue.sources.filter((s) => s !== 'measured' && s !== 'eye word').map((s) => [s, s] as [string, string])]} />
          {into === LEDGER && <Choice label="Bare lengths in" value={unit} set={(v) => fresh(() => setUnit(v))} choices={[['', 'mm'], ['in', 'inches'], ['cm', 'cm']]} />}
        </div>
        <label className="field">
          A column or a table, pasted
          <textarea rows={5} className="mono" autoFocus value={text} onChange={(e) => fresh(() => setText(e.target.value))} placeholder={'adapter plate\t18.2 mm\nflywheel\t28.1 mm'} />
        </label>
        <label className="field">
          or a file (CSV, text)
          <input type="file" accept=".csv,.tsv,.txt,text/csv,text/plain" onChange={(e) => fresh(() => setFile(e.target.files?.[0] ?? null))} />
        </label>
        <Headings catalogue={catalogue} into={into} />
        {read.isError && (
          <p role="alert" className="fouls">
            {read.error.message}
          </p>
        )}
        {wrong !== '' && (
          <p role="alert" className="fouls">
            {wrong}
          </p>
        )}
        {lines.length > 0 && (
          <>
            <div className="actions">
              <Button variant="contained" disabled={taken.length === 0} onClick={() => void take()}>
                Take {taken.length} {taken.length === 1 ? 'line' : 'lines'}
              </Button>
              {refused.length > 0 && <span className="fouls">{refused.length} cannot be read: they go to the tray</span>}
            </div>
            <Preview lines={lines.slice(0, 300)} left={left} leave={(at, out) => setLeft((now) => new Set(out ? [...now, at] : [...now].filter((i) => i !== at)))} />
            {lines.length > 300 && <p className="soft">and {lines.length - 300} more lines, taken with them</p>}
          </>
        )}
      </div>
    </Drawer>
  )
}

function Choice({ label, value, set, choices }: { label: string; value: string; set: (value: string) => void; choices: readonly (readonly [string, string])[] }) {
  return (
    <label className="field">
      {label}
      <select value={value} onChange={(e) => set(e.target.value)}>
        {choices.map(([v, words]) => (
          <option key={v} value={v}>
            {words}
          </option>
        ))}
      </select>
    </label>
  )
}

/** What a table's columns may be called. */
function Headings({ catalogue, into }: { catalogue: Catalogue; into: string }) {
  const list = catalogue.lists.find((l) => l.key === into)
  return (
    <details className="soft">
      <summary>Headings</summary>
      {into === LEDGER ? (
        <p>
          <b>size</b> (its name, its key or its letter here), <b>reading</b> (as it would be typed: 1 7/8 in, 18.2 ± 0.1), <b>unit</b>, <b>±</b>, <b>source</b>, <b>tool</b>. Without headings: one column of figures goes into the sizes of this question in order; two columns are size and reading.
        </p>
      ) : (
        <p>
          <b>no.</b> is a row that is there: its cells are changed. A line without it is a new row. {list ? list.columns.map((c) => c.label).join(', ') : 'across, up, diameter, role, land …'}; a unit may follow a heading: “{list?.columns.find((c) => c.kind === 'length')?.label ?? 'across'}, in”. Without headings the columns stand in this order.
        </p>
      )}
    </details>
  )
}
