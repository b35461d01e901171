import { useId, useRef, type ToggleEvent } from 'react'
import { drawnAt } from '../board/em'
import { SKETCHES } from './sketches'
import './hints.css'

const [WIDE, HIGH] = [160, 116]

/** A small mark beside a word of the shop; it opens what the word means, with a sketch. Nothing where there is none. */
export function Hint({ word, name }: { word: string; name: string }) {
  const id = useId()
  const mark = useRef<HTMLButtonElement>(null)
  const sketch = SKETCHES[word]
  if (sketch === undefined) return null
  const place = (event: ToggleEvent<HTMLDivElement>) => {
    const at = mark.current?.getBoundingClientRect()
    const box = event.currentTarget
    if (event.newState !== 'open' || at === undefined) return
    box.style.left = `${Math.max(8, Math.min(at.left, window.innerWidth - box.offsetWidth - 8))}px`
    box.style.top = `${at.bottom + box.offsetHeight + 8 > window.innerHeight ? at.top - box.offsetHeight - 4 : at.bottom + 4}px`
  }
  return (
    <>
      <button ref={mark} type="button" className="hintmark" popoverTarget={id} aria-label={`What is meant by ${name}`}>
        ?
      </button>
      <div id={id} popover="auto" className="hint" onToggle={place}>
        <svg {...drawnAt(WIDE, HIGH)} role="img" aria-label={`Sketch: ${name}`}>
          {sketch.draws}
        </svg>
        <p>{sketch.says}</p>
      </div>
    </>
  )
}
