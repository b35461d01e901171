/** How a figure is set says where it comes from, so that a page of guesses looks like one. */
export function sourceClass(source: string | null | undefined): string {
  return `src-${(source ?? 'none').replace(/[^a-z]+/g, '-')}`
}

/** Mark in front of a figure: a tilde for a guess, M for memory, H for hearsay, S for a seller. */
export function sourceMark(source: string | null | undefined): string {
  return { guess: '~', memory: 'mem', hearsay: 'hear', seller: 'sell' }[source ?? ''] ?? ''
}
