import type { Desk } from '../entry/desk'
import { HOME } from '../entry/hands'

/** Keys of one reading come within this of one another: no hand is as fast. */
const BETWEEN_MS = 60
const MOST_LETTERS = 40
const PART = /^[0-9.,+\-/ a-zA-Z"]$/
const BEGINS = /^[0-9.,+-]$/

/** Reads what a gauge that types sends while the hands are in no field. */
export class GaugeEar {
  private text = ''
  private last = 0
  private readonly heard: (text: string) => void

  constructor(heard: (text: string) => void) {
    this.heard = heard
  }

  /** Takes a key, or says that it is none of a gauge's. A reading begins with a figure and ends with Enter or Tab. */
  key(key: string, at: number): boolean {
    const goesOn = this.text !== '' && at - this.last < BETWEEN_MS
    if (!goesOn) this.text = ''
    this.last = at
    if (goesOn && (key === 'Enter' || key === 'Tab')) {
      const text = this.text.trim()
      this.text = ''
      if (text !== '') this.heard(text)
      return true
    }
    if (!(goesOn ? PART : BEGINS).test(key) || this.text.length >= MOST_LETTERS) return false
    this.text += key
    return true
  }

  /** Whether a first key may still be followed by a reading. */
  get alone(): boolean {
    return this.text.length === 1
  }
}

/** A gauge that types while the hands are nowhere lays its readings in the tray. A key that stays alone is a command, a moment later. */
export function listen(desk: Desk): () => void {
  const ear = new GaugeEar((text) => desk.lay([{ text, why: 'it came while no field was in hand', from: 'gauge' }]))
  let again = false
  const onKey = (event: KeyboardEvent) => {
    const home = event.target === document.body || (event.target instanceof HTMLElement && event.target.id === HOME)
    if (again || !home || event.ctrlKey || event.metaKey || event.altKey || !ear.key(event.key, event.timeStamp)) return
    event.preventDefault()
    event.stopImmediatePropagation()
    const { key, code, target } = event
    if (!ear.alone) return
    window.setTimeout(() => {
      if (!ear.alone || target === null) return
      again = true
      target.dispatchEvent(new KeyboardEvent('keydown', { key, code, bubbles: true }))
      again = false
    }, BETWEEN_MS)
  }
  window.addEventListener('keydown', onKey, true)
  return () => window.removeEventListener('keydown', onKey, true)
}
