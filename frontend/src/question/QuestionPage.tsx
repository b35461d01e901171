import { lazy, Suspense, useState, type ReactNode } from 'react'
import type { BoardData, QuestionRow } from '../api/types'
import { useDesk, useDeskPart } from '../entry/useDesk'
import { FootLine } from '../shell/FootLine'
import { TrialLine } from '../shell/TrialLine'
import { Board } from '../board/Board'
import { mirrored } from '../board/mirror'
import { Tabs } from '../board/Tabs'
import { Ledger } from '../ledger/Ledger'
import { RowsEditor } from '../rows/RowsEditor'
import { useBuild, useTrial } from '../shell/buildContext'
import { useLooked } from '../shell/looked'
import { useVisit } from '../shell/visit'
import { INSTRUMENTS } from '../stations/instruments'
import { Files } from './Files'
import { ReadingsView } from './ReadingsView'
import { TableView } from './TableView'
import './question.css'

const Alternatives = lazy(() => import('../shell/Alternatives'))
const ChartView = lazy(() => import('../board/ChartView'))
const FacePanel = lazy(() => import('../faces/FacePanel'))
const Space = lazy(() => import('../board/Space'))
const IN_SPACE = 'in space'

/** What can be looked at in a question, by name: pictures, charts over one variable, bodies in space. */
function viewsOf(board: BoardData): [string, string][] {
  return [...board.drawings.map((d): [string, string] => [d.name, d.name || 'Drawing']), ...board.charts.map((c): [string, string] => [c.title, c.title]), ...(board.scene ? [[IN_SPACE, 'In space'] as [string, string]] : [])]
}

/** The pictures of a question, one at a time, with what belongs to them. It keeps its place while lists and sizes are gone through. */
function Pictures({ question, board }: { question: QuestionRow; board: BoardData }) {
  const [chosen, choose] = useState('')
  const [mirror, setMirror] = useState(false)
  const views = viewsOf(board)
  const view = views.some(([v]) => v === chosen) ? chosen : (views[0]?.[0] ?? '')
  const plain = board.drawings.find((d) => d.name === view)
  const drawing = plain && mirror && plain.two_sided ? mirrored(plain) : plain
  const chart = board.charts.find((c) => c.title === view)
  const tools: ReactNode = (views.length > 1 || plain?.two_sided || question.files.length > 0) && (
    <div className="boardtools">
      {views.length > 1 && <Tabs label="View" names={views} chosen={view} choose={choose} />}
      {plain?.two_sided && (
        <button type="button" className="quiet" aria-pressed={mirror} onClick={() => setMirror(!mirror)}>
          {mirror ? 'see it from behind' : 'see it from the front'}
        </button>
      )}
      <Files question={question} />
    </div>
  )
  // Two that are looked at together stand side by side while the first of them is chosen.
  const second = board.beside && plain !== undefined && plain === board.drawings[0] ? board.drawings[1] : undefined
  return (
    <div className={second ? 'picture two' : 'picture'}>
      {view === IN_SPACE && board.scene && (
        <Suspense fallback={<div className="board waiting">Loading the view in space</div>}>
          <Space scene={board.scene}>{tools}</Space>
        </Suspense>
      )}
      {chart && (
        <Suspense fallback={<div className="board waiting">Loading the chart</div>}>
          <ChartView chart={chart}>{tools}</ChartView>
        </Suspense>
      )}
      {drawing && (
        <Board key={question.key} drawing={drawing} label={question.name} ruler={drawing.rules} edge={32}>
          {tools}
        </Board>
      )}
      {second && <Board key={second.name || 'second'} drawing={second} label={`${question.name}, ${second.name || 'section'}`} ruler={second.rules} edge={32} />}
    </div>
  )
}

/** What the question asks; the trial while there is one. */
function Head({ question }: { question: QuestionRow }) {
  const trial = useTrial()
  const aside = useDeskPart(useDesk(), (s) => s.aside.length)
  const [comparing, compare] = useState(false)
  return (
    <>
      {trial === null ? (
        <p className="asks soft">
          {question.asks}
          {aside > 0 && (
            <button type="button" className="quiet" onClick={() => compare(true)}>
              {aside} set aside
            </button>
          )}
        </p>
      ) : (
        <TrialLine trial={trial} />
      )}
      {comparing && (
        <Suspense fallback={null}>
          <Alternatives close={() => compare(false)} />
        </Suspense>
      )}
    </>
  )
}

/** A question of which nothing is known says what it needs first, with what it is taken and why. */
function BeginWith({ question, board }: { question: QuestionRow; board: BoardData }) {
  const visit = useVisit()
  if (board.begin.length === 0) return null
  return (
    <section className="beginwith" aria-label="Begin with">
      <p>Nothing is measured here yet. Begin with:</p>
      <ol>
        {board.begin.map((b) => (
          <li key={b.address}>
            <button type="button" className="quiet" onClick={() => visit(b.address, question.station)}>
              {b.letter && <span className="letter">{b.letter}</span>} {b.name}
            </button>{' '}
            <b>{b.tool || 'paper of the maker'}</b> {b.how} <span className="soft">{b.reason}</span>
          </li>
        ))}
      </ol>
    </section>
  )
}

/** What is worked with below the picture: instruments of the question's own, castings, figures, ledger, tables and lists. */
function Bench({ question, board, pictured }: { question: QuestionRow; board: BoardData | undefined; pictured: boolean }) {
  const instrument = INSTRUMENTS[question.key]
  const Instrument = instrument?.show
  const own = instrument?.lists ?? []
  return (
    <div className="bench">
      {board && <BeginWith question={question} board={board} />}
      {board && !pictured && question.files.length > 0 && (
        <div className="filesrow">
          <Files question={question} />
        </div>
      )}
      {Instrument && (
        <Suspense fallback={null}>
          <Instrument board={board} />
        </Suspense>
      )}
      <Suspense fallback={null}>
        {question.faces.map((side) => (
          <FacePanel key={side} side={side} />
        ))}
      </Suspense>
      {board && <ReadingsView readings={board.readings} />}
      <Ledger question={question} />
      {board?.tables.filter((t) => !t.paper_only).map((t) => <TableView key={t.key} table={t} />)}
      {question.lists
        .filter((key) => !own.includes(key))
        .map((key) => (
          <RowsEditor key={key} listKey={key} />
        ))}
    </div>
  )
}

/** Everything that a question shows: its picture, and below it the bench, or the run of readings that takes its place. */
export function QuestionPage({ question }: { question: QuestionRow }) {
  const { boards } = useBuild()
  const running = useLooked((l) => l.running)
  const board = boards[question.key]
  const pictured = board !== undefined && viewsOf(board).length > 0
  return (
    <>
      <Head question={question} />
      {board?.failed && (
        <p role="alert" className="fouls">
          Pindo failed at this picture: the trace is in its log. What is entered and found stands below.
        </p>
      )}
      {pictured && <Pictures question={question} board={board} />}
      {!running && <Bench question={question} board={board} pictured={pictured} />}
      <FootLine question={question} />
    </>
  )
}
