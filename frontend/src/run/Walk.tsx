import { useLayoutEffect, useState, type ReactNode } from 'react'
import { FigureField } from '../entry/FigureField'
import { focusOn } from '../entry/hands'
import { ToolInHand } from '../entry/ToolInHand'
import { useDesk, useDeskPart } from '../entry/useDesk'
import type { Stop } from './walks'
import './run.css'

interface Props {
  title: string
  /** What is read, fixed when the walk begins: what is read meanwhile does not shift it. */
  stops: readonly Stop[]
  unit: string
  close: () => void
  /** What else is said in its head, for the reading in hand. */
  children?: (at: number) => ReactNode
}

/** One reading after the other, with nothing between them but Enter: a gauge that types walks by itself. */
export function Walk({ title, stops, unit, close, children }: Props) {
  const desk = useDesk()
  const tool = useDeskPart(desk, (s) => s.tool)
  const [at, go] = useState(0)
  const now = stops[at]
  useLayoutEffect(() => {
    if (now !== undefined) document.getElementById(now.id)?.focus({ preventScroll: true })
  }, [now])
  const refused = useDeskPart(desk, (s) => s.refused).filter((h) => stops.some((s) => s.id === h.field))
  return (
    <section className="walk" aria-label={title}>
      <div className="runhead">
        <h2>
          {title} <span className="soft mono">{Math.min(at + 1, stops.length)} of {stops.length}</span>
        </h2>
        <ToolInHand />
        {children?.(at)}
        <button type="button" className="plainbutton" onClick={close}>
          End
        </button>
      </div>
      {refused[0] !== undefined && (
        <p role="alert" className="fouls runwrong">
          {refused[0].words}: “{refused[0].text}” was refused, {refused[0].wrong}{' '}
          <button
            type="button"
            className="plainbutton"
            onClick={() => {
              const id = refused[0]?.field ?? ''
              go(stops.findIndex((s) => s.id === id))
              requestAnimationFrame(() => focusOn(id))
            }}
          >
            read it again
          </button>
        </p>
      )}
      {now === undefined ? (
        <p>All of it is read.</p>
      ) : (
        <p className="walknow">
          <b>{now.words}</b>
          <FigureField key={now.id} id={now.id} label={now.words} shown="" kind="length" unit={unit} className="cell" acts={(typed) => now.acts(typed, tool)} leave={(back) => go((i) => Math.max(0, i + (back ? -1 : 1)))} />
          <span className="unit">{unit}</span>
          <button type="button" className="quiet" onClick={() => go(at + 1)}>
            leave it out
          </button>
          <span className="soft">{stops[at + 1] === undefined ? 'the last one' : `then ${stops[at + 1]?.words}`}</span>
        </p>
      )}
    </section>
  )
}
