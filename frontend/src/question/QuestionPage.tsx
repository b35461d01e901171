import { lazy, Suspense, useState, type ReactNode } from 'react'
import type { BoardData, QuestionRow } from '../api/types'
import { Board } from '../board/Board'
import { ChartView } from '../board/ChartView'
import { mirrored } from '../board/mirror'
import { Tabs } from '../board/Tabs'
import { Ledger } from '../ledger/Ledger'
import { RowsEditor } from '../rows/RowsEditor'
import { useBuild } from '../shell/buildContext'
import { INSTRUMENTS } from '../stations/instruments'
import { ReadingsView } from './ReadingsView'
import { TableView } from './TableView'

const Space = lazy(() => import('../board/Space'))
const IN_SPACE = 'in space'

/** The pictures of a question, one at a time, with what belongs to them. */
function Pictures({ question, board }: { question: QuestionRow; board: BoardData }) {
  const { state } = useBuild()
  const [chosen, choose] = useState('')
  const [mirror, setMirror] = useState(false)
  const views = [...board.drawings.map((d): [string, string] => [d.name, d.name]), ...(board.scene ? [[IN_SPACE, 'In space'] as [string, string]] : [])]
  const view = views.some(([v]) => v === chosen) ? chosen : (views[0]?.[0] ?? '')
  const plain = board.drawings.find((d) => d.name === view)
  const drawing = plain && mirror && plain.two_sided ? mirrored(plain) : plain
  const tools: ReactNode = (views.length > 1 || plain?.two_sided || question.files.length > 0) && (
    <div className={plain || board.scene ? 'boardtools' : 'filesrow'}>
      {views.length > 1 && <Tabs label="View" names={views} chosen={view} choose={choose} />}
      {plain?.two_sided && (
        <button type="button" className="quiet" aria-pressed={mirror} onClick={() => setMirror(!mirror)}>
          {mirror ? 'see it from behind' : 'see it from the front'}
        </button>
      )}
      {question.files.map(([file, words]) => (
        <a key={file} href={`/api/builds/${state.id}/${file}`} download>
          {words}
        </a>
      ))}
    </div>
  )
  if (view === IN_SPACE && board.scene)
    return (
      <Suspense fallback={<div className="board waiting">Loading the view in space</div>}>
        <Space scene={board.scene}>{tools}</Space>
      </Suspense>
    )
  if (drawing === undefined) return tools || null
  return (
    <Board key={question.key} drawing={drawing} label={question.name} ruler={drawing.rules} edge={32} flat={drawing.x_high - drawing.x_low > 3 * (drawing.y_high - drawing.y_low)}>
      {tools}
    </Board>
  )
}

/** Everything that a question shows: pictures, instruments of its own, charts, tables, figures, its lists and its ledger. */
export function QuestionPage({ question }: { question: QuestionRow }) {
  const { boards } = useBuild()
  const board = boards[question.key]
  const instrument = INSTRUMENTS[question.key]
  const Instrument = instrument?.show
  const own = instrument?.lists ?? []
  return (
    <>
      <p className="asks soft">{question.asks}</p>
      {board?.failed && (
        <p role="alert" className="fouls">
          Pindo failed at this picture: the trace is in its log. What is entered and found stands below.
        </p>
      )}
      {board && <Pictures question={question} board={board} />}
      {Instrument && <Instrument board={board} />}
      {board?.charts.map((c) => <ChartView key={c.title} chart={c} />)}
      {board && <ReadingsView readings={board.readings} />}
      {board?.tables.filter((t) => !t.paper_only).map((t) => <TableView key={t.key} table={t} />)}
      {question.lists
        .filter((key) => !own.includes(key))
        .map((key) => (
          <RowsEditor key={key} listKey={key} />
        ))}
      <Ledger question={question} />
    </>
  )
}
