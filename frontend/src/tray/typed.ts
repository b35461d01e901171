import type { Desk } from '../entry/desk'

/** Types a reading where the hands are, as a gauge with a keyboard does; into the tray where they are in no field for figures. */
export function typeHere(desk: Desk, text: string, why: string): void {
  const field = document.activeElement
  if (field instanceof HTMLInputElement && field.dataset['figure'] !== undefined) {
    field.select()
    // The browser's own typing: the field hears it as it hears a key.
    document.execCommand('insertText', false, text)
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }))
  } else desk.lay([{ text, why, from: 'gauge' }])
}
