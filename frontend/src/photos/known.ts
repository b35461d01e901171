export interface KnownSizes {
  readonly width: string
  readonly width_pm: string
  readonly height: string
  readonly height_pm: string
}
export const NOTHING_KNOWN: KnownSizes = { width: '', width_pm: '', height: '', height_pm: '' }

/** A size in mm as it was typed; nought where it is none. */
export const sizeIn = (text: string): number => {
  const value = Number(text.trim().replace(',', '.'))
  return Number.isFinite(value) && value > 0 ? value : 0
}

/** What is known in a picture, as the server takes it. */
export const sizesIn = (said: KnownSizes) => ({ width: sizeIn(said.width), width_pm: sizeIn(said.width_pm), height: sizeIn(said.height), height_pm: sizeIn(said.height_pm) })

/** Whether a known length, or a rectangle, is said with its ±. */
export const isSaid = (way: 'length' | 'rectangle', said: KnownSizes): boolean => {
  const { width, width_pm, height, height_pm } = sizesIn(said)
  return width > 0 && width_pm > 0 && (way === 'length' || (height > 0 && height_pm > 0))
}
