import type { Drawing } from '../api/types'
import { useBuild } from '../shell/buildContext'
import type { Place } from './place'
import './board.css'

/** Station ruler under the section, in the unit of the screen. */
export function Ruler({ drawing, place, width, y }: { drawing: Drawing; place: Place; width: number; y: number }) {
  const { system } = useBuild()
  const unit = system === 'in' ? 25.4 : 10
  const every = system === 'in' ? 1 : 5
  const first = Math.ceil(drawing.x_low / unit)
  const last = Math.floor(drawing.x_high / unit)
  const ticks = Array.from({ length: last - first + 1 }, (_, i) => first + i)
  return (
    <g className="ruler">
      {/* Its own strip, so that a picture looked at from near does not stand behind the figures. */}
      <rect x={0} y={y - 9} width={width} height={40} className="rulerstrip" />
      {ticks.map((t) => (
        <g key={t}>
          <line x1={place.x(t * unit)} x2={place.x(t * unit)} y1={y} y2={y + (t % every === 0 ? 7 : 4)} />
          {t % every === 0 && (
            <text x={place.x(t * unit)} y={y + 19} textAnchor="middle" className="mono">
              {system === 'in' ? t : t * 10}
            </text>
          )}
        </g>
      ))}
      <text x={width - 4} y={y + 19} textAnchor="end" className="mono">
        {system === 'in' ? 'in' : 'mm'}
      </text>
    </g>
  )
}
