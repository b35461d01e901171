import { useMemo } from 'react'
import type { Drawing } from '../api/types'
import { path, placeLabels, type Box, type Label, type Place } from './place'
import './board.css'

const HOLE_LABELLED = (r: Drawing['rounds'][number]) => r.label !== '' && r.style !== 'land'
const CENTRED = new Set(['pulley', 'idler'])
const LETTER_W = 8.6

/** Labels of holes and names of bodies, each where it covers no other. */
function useLabels(drawing: Drawing, place: Place, taken: readonly Box[], width: number, height: number) {
  return useMemo(() => {
    const circles = drawing.rounds
      .filter((r) => r.style !== 'land' && r.style !== 'opening' && r.style !== 'wheel')
      .map((r): Box => ({ x: place.x(r.x), y: place.y(r.y), w: r.d * place.scale, h: r.d * place.scale }))
    const holes = drawing.rounds.filter((r) => HOLE_LABELLED(r) && !CENTRED.has(r.style))
    const wanted = holes.map((r): Label => {
      const far = Math.hypot(r.x, r.y) || 1
      const out = r.part === 'gearbox' ? 1 : -1
      return { text: r.label, at: [place.x(r.x), place.y(r.y)], r: (r.d / 2) * place.scale, towards: [(out * r.x) / far, (-out * r.y) / far] }
    })
    const placed = placeLabels(wanted, [...taken, ...circles], width, height)
    const full = [...taken, ...placed]
    const names = drawing.shapes
      .filter((s) => s.label !== '')
      .flatMap((s) => {
        const [xs, ys] = [s.points.map(([x]) => place.x(x)), s.points.map(([, y]) => place.y(y))]
        const box = { x: (Math.min(...xs) + Math.max(...xs)) / 2, y: (Math.min(...ys) + Math.max(...ys)) / 2, w: s.label.length * LETTER_W * 0.9, h: 15 }
        const room = Math.max(...xs) - Math.min(...xs)
        return [{ text: s.label, box, room }]
      })
      .sort((a, b) => b.room - a.room)
      .filter(({ box }) => {
        const free = full.every((o) => Math.abs(o.x - box.x) > (o.w + box.w) / 2 || Math.abs(o.y - box.y) > (o.h + box.h) / 2)
        if (free) full.push(box)
        return free && box.x > box.w / 2 && box.x < width - box.w / 2
      })
    return { holes: holes.map((r, i) => ({ key: `${r.part} ${r.label}`, text: r.label, box: placed[i] ?? { x: 0, y: 0, w: 0, h: 0 } })), names }
  }, [drawing, height, place, taken, width])
}

interface Props {
  drawing: Drawing
  place: Place
  /** Where something stands already that no label may cover. */
  taken: readonly Box[]
  width: number
  height: number
}

export function Shapes({ drawing, place, taken, width, height }: Props) {
  const labels = useLabels(drawing, place, taken, width, height)
  return (
    <>
      {drawing.shapes.map((s, i) => (
        <path key={i} d={path(s.points, place, s.closed)} className={`shape ${s.style} ${s.known ? '' : 'assumed'}`}>
          <title>{s.known ? s.part : `${s.part}, drawn at a usual size: not all of it is measured`}</title>
        </path>
      ))}
      {drawing.rounds.map((r, i) => (
        <g key={i}>
          <circle cx={place.x(r.x)} cy={place.y(r.y)} r={Math.max((r.d / 2) * place.scale, 1)} className={`round ${r.style} ${r.known ? '' : 'assumed'}`}>
            <title>{r.label ? `${r.part} ${r.label}` : r.part}</title>
          </circle>
          {HOLE_LABELLED(r) && CENTRED.has(r.style) && (
            <text x={place.x(r.x)} y={place.y(r.y) + 5} textAnchor="middle" className="holelabel mono">
              {r.label}
            </text>
          )}
        </g>
      ))}
      {labels.holes.map((l) => (
        <text key={l.key} x={l.box.x} y={l.box.y + 5} textAnchor="middle" className="holelabel mono">
          {l.text}
        </text>
      ))}
      {labels.names.map((l) => (
        <text key={`${l.text} ${l.box.x}`} x={l.box.x} y={l.box.y + 5} textAnchor="middle" className="bodyname">
          {l.text}
        </text>
      ))}
    </>
  )
}
