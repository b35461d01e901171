import type { Catalogue, QuestionRow, Station } from '../api/types'

/** Whether a question asks for an address: in its ledger, its lists or its castings. */
function asksFor(question: QuestionRow, address: string): boolean {
  const within = (key: string) => address === key || address.startsWith(`${key}.`)
  return question.ledger.some((l) => l.key === address) || question.options.includes(address) || question.lists.some(within) || question.faces.some(within)
}

/** Where an address is asked for: of the questions that are `asked` of the build the one at `station`, else at its own station; a ledger before lists. */
export function questionOf(catalogue: Catalogue, address: string, station?: Station, asked?: readonly string[]): QuestionRow | undefined {
  const home = catalogue.dimensions.find((d) => d.key === address)?.station
  const all = catalogue.questions.filter((q) => asksFor(q, address))
  const open = asked === undefined ? all : all.filter((q) => asked.includes(q.key))
  const able = open.length > 0 ? open : all
  return able.find((q) => q.station === station) ?? able.find((q) => q.station === home) ?? able[0]
}
