import { memo } from 'react'
import type { QuestionRow, Station } from '../api/types'
import { VerdictGlyph } from '../findings/VerdictGlyph'
import { useBuild } from '../shell/buildContext'
import './question.css'

const VERDICTS = ['fouls', 'tight', 'unmeasured'] as const
/** Tabs beyond which they stand closer, so that all are in sight on a screen of 1280. */
const MANY = 8
const WORDS = { fouls: 'foul', tight: 'tight', unmeasured: 'unmeasured' }

/** The questions of a station that are asked of this build. */
export function askedOf(questions: readonly QuestionRow[], station: Station, asked: readonly string[]): QuestionRow[] {
  const on = new Set(asked)
  return questions.filter((q) => q.station === station && on.has(q.key))
}

/** The questions of a station as a row of tabs, each with the worst of its tally. */
export const QuestionTabs = memo(function QuestionTabs({ questions, chosen, go }: { questions: readonly QuestionRow[]; chosen: string; go: (to: Station, question: string) => void }) {
  const { assessment } = useBuild()
  const move = (by: number) => {
    const at = questions.findIndex((q) => q.key === chosen)
    const next = questions[(at + by + questions.length) % questions.length]
    if (next) go(next.station, next.key)
  }
  return (
    <div className={questions.length > MANY ? 'questions many' : 'questions'} role="tablist" aria-label="Questions">
      {questions.map((q) => {
        const tally = assessment.by_question[q.key]
        const worst = VERDICTS.find((v) => (tally?.[v] ?? 0) > 0)
        return (
          <button
            key={q.key}
            type="button"
            role="tab"
            data-question={q.key}
            aria-selected={q.key === chosen}
            title={VERDICTS.flatMap((v) => (tally?.[v] ? [`${tally[v]} ${WORDS[v]}`] : [])).join(', ')}
            tabIndex={q.key === chosen ? 0 : -1}
            onClick={() => go(q.station, q.key)}
            onKeyDown={(e) => {
              if (e.key === 'ArrowRight') move(1)
              if (e.key === 'ArrowLeft') move(-1)
            }}
          >
            {q.name}
            <span className="questiontally">
              {worst && (
                <>
                  <VerdictGlyph verdict={worst} small /> <span className="mono">{tally?.[worst]}</span>
                </>
              )}
            </span>
          </button>
        )
      })}
    </div>
  )
})
