import './entry.css'
const KEYS = ['¼', '½', '¾', '⅛', '/', '″', '±', '-'] as const

/** Keys that a tablet's figures lack, in the hand while a figure is typed; nothing where there is a mouse. */
export function TouchKeys({ type }: { type: (key: string) => void }) {
  return (
    <span className="touchkeys" role="group" aria-label="More keys">
      {KEYS.map((key) => (
        // The field keeps the focus: a key is pressed, not gone to.
        <button key={key} type="button" tabIndex={-1} onPointerDown={(e) => e.preventDefault()} onClick={() => type(key)}>
          {key}
        </button>
      ))}
    </span>
  )
}
