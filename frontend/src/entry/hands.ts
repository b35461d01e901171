import type { MouseEvent } from 'react'

/** Where the focus lives when it is in no field: keys go nowhere from there. */
export const HOME = 'home'

export function goHome(): void {
  document.getElementById(HOME)?.focus({ preventScroll: true })
}

/** Brings a field into sight and the hands to it. */
export function focusOn(id: string): void {
  const field = document.getElementById(id)
  field?.scrollIntoView({ block: 'center' })
  field?.focus({ preventScroll: true })
}

/** Focuses the next field that is still unmeasured, in the order of the screen; inside a table only of that table. */
export function toNextUnmeasured(from: HTMLElement): void {
  const fields = [...(from.closest('table') ?? document).querySelectorAll<HTMLInputElement>('[data-figure]')]
  const later = fields.slice(fields.indexOf(from as HTMLInputElement) + 1)
  const next = later.find((f) => f.closest('[data-unmeasured="true"]')) ?? later[0]
  if (next === undefined) goHome()
  else next.focus()
}

const PAIR_MS = 250
let last = { key: '', at: 0 }

/** Whether a key that ends an entry is the second of a pair: gauges send Tab, Enter or both. */
export function secondOfPair(key: string, changed: boolean, at: number): boolean {
  const second = !changed && last.key !== '' && last.key !== key && at - last.at < PAIR_MS
  last = { key: second ? '' : key, at }
  return second
}

/** The first click of a double click acts, the second does not: one row is added. */
export const once = (act: () => void) => (event: MouseEvent) => {
  if (event.detail <= 1) act()
}

/** Tools by the key that names them, for this and the following lines. */
export const TOOL_KEYS: Readonly<Record<string, string>> = {
  F2: 'digital calliper',
  F3: 'vernier depth gauge',
  F4: 'steel rule',
  F6: 'tape',
  F7: 'dial indicator',
  F8: 'micrometer or bore gauge',
  F9: 'digital inclinometer',
  F10: 'gear or thread gauge',
}

/** A short low tone: an entry was refused while nobody looked. */
export function tone(): void {
  const audio = new AudioContext()
  const note = audio.createOscillator()
  note.frequency.value = 220
  note.connect(audio.destination)
  note.start()
  note.stop(audio.currentTime + 0.25)
  note.onended = () => void audio.close()
}
