/** Pixels of the screen in one pixel of a picture: pictures are drawn for type of 16 pixels, and grow with the type that the browser is set to. */
export const EM = typeof document === 'undefined' ? 1 : parseFloat(getComputedStyle(document.documentElement).fontSize) / 16 || 1

/** Size and scale of a picture of so many pixels, as an svg element takes them. */
export const drawnAt = (width: number, height: number) => ({ width: width * EM, height: height * EM, viewBox: `0 0 ${width} ${height}` })
