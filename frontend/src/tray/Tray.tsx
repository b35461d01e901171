import { useState } from 'react'
import type { QuestionRow } from '../api/types'
import { readingOf, shownUnit } from '../entry/acts'
import type { Loose } from '../entry/desk'
import { useDesk, useDeskPart } from '../entry/useDesk'
import { useBuild } from '../shell/buildContext'
import { stationName } from '../shell/StationRail'
import './tray.css'

/** One reading that belongs nowhere yet: its text can be mended, and it is put where it belongs or thrown away. */
function LooseLine({ loose, lines }: { loose: Loose; lines: readonly (readonly [string, string])[] }) {
  const desk = useDesk()
  const { dimension, system } = useBuild()
  const [to, choose] = useState(loose.to || (lines[0]?.[0] ?? ''))
  const [text, setText] = useState(loose.text)
  const row = dimension(to)
  const put = () => {
    if (row === undefined) return
    const unit = shownUnit(row, system)
    desk.enter({ field: `figure-${to}`, words: `${row.name}${unit ? `, ${unit}` : ''}`, text, acts: [readingOf(row, text, system, desk.now().tool)] })
    desk.clear([loose.id])
  }
  return (
    <li>
      <input className="mono" aria-label={`Loose reading ${loose.text}`} value={text} maxLength={120} onChange={(e) => setText(e.target.value)} />
      <label className="field">
        is
        <select value={to} onChange={(e) => choose(e.target.value)}>
          {lines.map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <button type="button" className="plainbutton" disabled={to === '' || text.trim() === ''} onClick={put}>
        Put it there
      </button>
      <button type="button" className="quiet" onClick={() => desk.clear([loose.id])}>
        throw away<span className="visually-hidden"> {loose.text}</span>
      </button>
      <span className="soft">{loose.why}</span>
    </li>
  )
}

/** Readings that belong nowhere yet: a gauge sent them while no field was in hand, or a table held them that could not be taken. They stay until somebody says. */
export default function Tray({ question }: { question: QuestionRow | undefined }) {
  const desk = useDesk()
  const tray = useDeskPart(desk, (s) => s.tray)
  const lost = useDeskPart(desk, (s) => s.spilt)
  const { assessment, catalogue, dimension, system } = useBuild()
  const [open, setOpen] = useState(true)
  const asked = new Set(assessment.asked)
  const here = question?.ledger.filter((l) => asked.has(l.key)) ?? []
  const wanted = (key: string) => assessment.quantities[key]?.value == null
  const first = [...here.filter((l) => wanted(l.key)), ...here.filter((l) => !wanted(l.key))].map((l) => [l.key, `${l.letter} ${dimension(l.key)?.name ?? l.key}`] as const)
  const others = catalogue.dimensions.filter((d) => asked.has(d.key) && !here.some((l) => l.key === d.key)).map((d) => [d.key, `${d.name}, ${stationName(d.station)}`] as const)
  const inOrder = () => {
    const free = here.filter((l) => wanted(l.key))
    tray.slice(0, free.length).forEach((loose, i) => {
      const row = dimension(free[i]?.key ?? '')
      if (row !== undefined) desk.enter({ field: `figure-${row.key}`, words: row.name, text: loose.text, acts: [readingOf(row, loose.text, system, desk.now().tool)] })
    })
    desk.clear(tray.slice(0, free.length).map((l) => l.id))
  }
  return (
    <section className="tray" aria-label="Tray of loose readings">
      <div className="trayhead">
        <b>
          Tray: {tray.length} {tray.length === 1 ? 'reading' : 'readings'} that belong nowhere yet
        </b>
        {lost > 0 && <span className="fouls">{lost} more came than it holds: stop the gauge, then read them again</span>}
        <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'shut' : 'open'}
        </button>
        <button type="button" className="quiet" onClick={inOrder} disabled={!here.some((l) => wanted(l.key))}>
          put them in order into what is wanted here
        </button>
        <button type="button" className="quiet" onClick={() => desk.clear(tray.map((l) => l.id))}>
          throw all away
        </button>
      </div>
      {open && (
        <ul className="plain">
          {tray.slice(0, 40).map((loose) => (
            <LooseLine key={loose.id} loose={loose} lines={[...first, ...others]} />
          ))}
          {tray.length > 40 && <li className="soft">and {tray.length - 40} more</li>}
        </ul>
      )}
    </section>
  )
}
