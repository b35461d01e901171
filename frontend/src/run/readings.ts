import type { Assessment, QuestionRow } from '../api/types'

/** One reading of a run: the size, and the question whose picture shows it. */
export interface Reading {
  readonly key: string
  readonly question: QuestionRow
  readonly letter: string
}

/** Readings in the order in which they come, and which is taken now; at their end `at` is their number. */
export interface Order {
  readonly readings: readonly Reading[]
  readonly at: number
}

/** What can be read at a station, from one of its questions on: what is still wanting, or all of that question again where nothing is. */
export function readingsOf(questions: readonly QuestionRow[], first: string, assessment: Assessment): Reading[] {
  const asked = new Set(assessment.asked)
  const from = Math.max(0, questions.findIndex((q) => q.key === first))
  const all = [...questions.slice(from), ...questions.slice(0, from)].flatMap((question) =>
    question.ledger.filter((l) => asked.has(l.key)).map((l): Reading => ({ key: l.key, letter: l.letter, question })),
  )
  const once = all.filter((r, i) => all.findIndex((s) => s.key === r.key) === i)
  const wanting = once.filter((r) => assessment.quantities[r.key]?.value == null)
  return wanting.length > 0 ? wanting : once.filter((r) => r.question.key === first)
}

/** The order with the hands at another place of it. */
export const goneTo = (order: Order, at: number): Order => ({ ...order, at: Math.max(0, Math.min(order.readings.length, at)) })

/** One reading put off: it comes after the one that followed it. */
export function putOff(order: Order, at = order.at): Order {
  const [it, next] = [order.readings[at], order.readings[at + 1]]
  if (it === undefined || next === undefined) return order
  const readings = [...order.readings]
  readings.splice(at, 2, next, it)
  return { ...order, readings }
}

/** One reading fetched to the front: it is taken now, what stood there follows. */
export function takenNow(order: Order, at: number): Order {
  const it = order.readings[at]
  if (it === undefined || at <= order.at) return goneTo(order, at)
  const readings = order.readings.filter((_, i) => i !== at)
  readings.splice(order.at, 0, it)
  return { ...order, readings }
}
