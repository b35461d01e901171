import type { Finding, QuestionRow } from '../api/types'
import { worstFirst } from '../findings/order'
import { VerdictGlyph } from '../findings/VerdictGlyph'
import { useBuild } from './buildContext'
import { openFinding } from './looked'
import { useVisit } from './visit'
import './shell.css'

const MOST = 2

function Told({ findings }: { findings: readonly Finding[] }) {
  return (
    <>
      {findings.slice(0, MOST).map((f) => (
        <button key={f.id} type="button" className="turnline" onClick={() => openFinding(f.id)}>
          <VerdictGlyph verdict={f.verdict} small /> {f.title}
        </button>
      ))}
      {findings.length > MOST && <span className="soft">and {findings.length - MOST} more</span>}
    </>
  )
}

/** What the last reading settled, what is still wanted here and the worst finding: one line at the foot, always in sight, never of another height. */
export function FootLine({ question }: { question: QuestionRow }) {
  const { assessment, settled, dimension, system } = useBuild()
  const visit = useVisit()
  const asked = new Set(assessment.asked)
  const wanted = question.ledger.filter((l) => asked.has(l.key) && assessment.quantities[l.key]?.value == null)
  const worst = worstFirst(assessment.findings.filter((f) => f.question === question.key && f.verdict !== 'goes'))[0]
  const first = wanted[0]
  const told = settled === null ? [] : [...settled.settled, ...settled.turned]
  return (
    <p className="footline" role="status">
      {settled !== null && (
        <span className="footpart">
          <b>{settled.words}</b> {told.length === 0 ? 'settles nothing by itself' : settled.settled.length > 0 ? 'settled' : 'turned'} <Told findings={told} />
        </span>
      )}
      {first === undefined && settled === null && <span className="soft">Nothing is wanted here.</span>}
      {first !== undefined && (
        <span className="footpart">
          <span className="soft">{settled === null ? 'wanted here' : 'still wanted'}</span>{' '}
          <button type="button" className="turnline" onClick={() => visit(first.key, question.station)}>
            {first.letter} {dimension(first.key)?.name ?? first.key}
          </button>
          {wanted.length > 1 && <span className="soft"> and {wanted.length - 1} more</span>}
        </span>
      )}
      {worst !== undefined && (
        <button type="button" className="turnline footworst" onClick={() => openFinding(worst.id)}>
          <VerdictGlyph verdict={worst.verdict} small /> {system === 'in' ? worst.sentence.inch : worst.sentence.mm}
        </button>
      )}
    </p>
  )
}
