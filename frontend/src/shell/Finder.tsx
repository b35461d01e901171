import { useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import { STATIONS } from '../api/types'
import { rowsOf } from '../rows/rows'
import { bring } from '../tray/brought'
import { useBuild } from './buildContext'
import { openFinding, openPanel, startRun } from './looked'
import { foundBy } from './shopWords'
import { stationName } from './StationRail'
import { useGo, useVisit } from './visit'
import './shell.css'

interface Row {
  readonly id: string
  readonly what: string
  readonly words: string
  readonly act: () => void
}

interface Props {
  close: () => void
  print: () => void
}

/** Finds any dimension, finding, part, station or command by its words. */
export function Finder({ close, print }: Props) {
  const { state, catalogue, assessment, step } = useBuild()
  const go = useGo()
  const visit = useVisit()
  const [text, setText] = useState('')
  const [at, setAt] = useState(0)
  const rows = useMemo((): Row[] => {
    const commands: [string, () => void][] = [
      ['Undo', () => void step('undo')],
      ['Redo', () => void step('redo')],
      ['History', () => openPanel('history')],
      ['Something happened: an event', () => openPanel('event')],
      ['What is open', () => openPanel('open')],
      ['Print this station', print],
      ['Tables in and out: paste, CSV', () => bring({})],
      ['Run of readings', startRun],
      ['Guide: a first build in ten minutes', () => openPanel('guide')],
      ['Gauges: listen to one, simulate one', () => openPanel('gauges')],
      ['Keys', () => openPanel('keys')],
    ]
    return [
      ...STATIONS.map((s) => ({ id: `s-${s}`, what: 'station', words: stationName(s), act: () => go(s) })),
      ...catalogue.questions.map((q) => ({ id: `q-${q.key}`, what: `question, ${q.station}`, words: `${q.name}: ${q.asks}`, act: () => go(q.station, q.key) })),
      ...commands.map(([words, act]) => ({ id: `c-${words}`, what: 'command', words, act })),
      ...catalogue.dimensions.map((d) => ({
        id: `d-${d.key}`,
        what: `${d.part}, ${d.station}`,
        words: d.name,
        act: () => visit(d.key, d.station),
      })),
      ...catalogue.options.map((o) => ({ id: `o-${o.key}`, what: `choice, ${o.station}`, words: o.name, act: () => visit(o.key, o.station) })),
      ...catalogue.lists.flatMap((list) =>
        rowsOf(state.document, list.key).map((row) => ({ id: `r-${list.key}-${row.n}`, what: `${list.one.toLowerCase()}, ${list.station}`, words: `${row.n} ${row.name}`, act: () => visit(`${list.key}.${row.n}`, list.station) })),
      ),
      ...assessment.findings.map((f) => ({
        id: `f-${f.id}`,
        what: f.verdict,
        words: f.sentence.mm,
        act: () => {
          go(f.station, f.question)
          openFinding(f.id)
        },
      })),
    ]
  }, [assessment, catalogue, go, print, state.document, step, visit])
  const shown = useMemo(() => foundBy(text, rows, (r) => `${r.words} ${r.what}`).slice(0, 12), [rows, text])
  const act = (row: Row | undefined) => {
    if (row === undefined) return
    close()
    row.act()
  }
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setAt(Math.min(at + 1, shown.length - 1))
    else if (event.key === 'ArrowUp') setAt(Math.max(at - 1, 0))
    else if (event.key === 'Enter') act(shown[at])
    else return
    event.preventDefault()
  }
  const dialog = useRef<HTMLDialogElement>(null)
  // Closed before it goes, it gives the hands back to where they were.
  useLayoutEffect(() => {
    const shownHere = dialog.current
    shownHere?.showModal()
    return () => shownHere?.close()
  }, [])
  return (
    <dialog ref={dialog} className="finderbox" aria-labelledby="finder-title" onCancel={close} onClick={(e) => e.target === e.currentTarget && close()}>
      <h2 id="finder-title" className="visually-hidden">
        Find
      </h2>
      <input
        autoFocus
        value={text}
        placeholder="Dimension, choice, finding, part, station or command"
        onChange={(event) => {
          setText(event.target.value)
          setAt(0)
        }}
        onKeyDown={onKey}
        role="combobox"
        aria-label="Find"
        aria-expanded
        aria-controls="finder-rows"
        aria-activedescendant={shown[at] ? `finder-${shown[at].id}` : undefined}
      />
      <ul id="finder-rows" role="listbox" aria-label="Found" className="finder">
        {shown.map((row, i) => (
          <li key={row.id} id={`finder-${row.id}`} role="option" aria-selected={i === at} onClick={() => act(row)} onPointerMove={() => setAt(i)}>
            <span>{row.words}</span> <span className="soft">{row.what}</span>
          </li>
        ))}
      </ul>
      {shown.length === 0 && <p className="finder-none soft">Nothing by that name.</p>}
    </dialog>
  )
}
