const FORM = new Intl.DateTimeFormat('sv-SE', { dateStyle: 'short', timeStyle: 'short' })

/** Local date and time as 2026-11-26 14:05; the Swedish form is that of ISO 8601. */
export function when(iso: string): string {
  return FORM.format(new Date(iso))
}
