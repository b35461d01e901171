import { useState, type PointerEvent, type ReactNode } from 'react'
import type { PatternFile, Point } from './patternFile'
import './faces.css'

const MOST_SIDE = 4000
const EDGE = 0.06
/** All of a picture is in sight: so much of the window's height. */
const TALLEST = 54

export interface Seen {
  /** Whether things are drawn in the picture's own pixels. */
  readonly inPicture: boolean
  /** Width of what is shown, by which lines and letters are drawn. */
  readonly wide: number
}

/** A picture with what was found in it, or a drawing to scale; what is known is picked in it. */
export function PatternStage({ of: { found, url, picked, pick }, children }: { of: PatternFile; children: (seen: Seen) => ReactNode }) {
  const [size, setSize] = useState<{ wide: number; tall: number } | null>(null)
  // A picture is read with its longer side at most 4000.
  const scale = size === null ? 1 : Math.min(1, MOST_SIDE / Math.max(size.wide, size.tall))
  const points: Point[] = [...(found?.circles ?? []).flatMap(({ circle: { x, y, d } }): Point[] => [[x - d / 2, -y - d / 2], [x + d / 2, -y + d / 2]]), ...(found?.lines ?? []).flatMap((l) => l.points.map((p): Point => [p[0] ?? 0, -(p[1] ?? 0)]))]
  const ends = (axis: 0 | 1) => points.reduce(([low, high], p) => [Math.min(low, p[axis]), Math.max(high, p[axis])], [Infinity, -Infinity])
  const [x1 = 0, x2 = 1] = ends(0)
  const [y1 = 0, y2 = 1] = ends(1)
  const edge = EDGE * Math.max(x2 - x1, y2 - y1)
  const [left, top, wide, tall] = url ? [0, 0, (size?.wide ?? 1) * scale, (size?.tall ?? 1) * scale] : [x1 - edge, y1 - edge, x2 - x1 + 2 * edge, y2 - y1 + 2 * edge]
  const onDown = (event: PointerEvent<SVGSVGElement>) => {
    const at = event.currentTarget.getBoundingClientRect()
    if (url) pick([((event.clientX - at.left) / at.width) * wide, ((event.clientY - at.top) / at.height) * tall])
  }
  return (
    <div className="patternstage" style={url && size !== null ? { maxWidth: `${(TALLEST * size.wide) / size.tall}vh` } : undefined}>
      {url && <img src={url} alt="" onLoad={(e) => setSize({ wide: e.currentTarget.naturalWidth, tall: e.currentTarget.naturalHeight })} />}
      {(size !== null || (!url && found !== null)) && (
        <svg viewBox={`${left} ${top} ${wide} ${tall}`} role="img" aria-label={`${found?.circles.length ?? 0} circles and ${found?.lines.length ?? 0} other outlines found`} onPointerDown={onDown}>
          {picked.length > 1 && <polygon className="patternknown" points={picked.map((p) => p.join(',')).join(' ')} strokeWidth={wide / 400} />}
          {picked.map(([x, y], i) => (
            <circle key={`k${i}`} className="patternknown" cx={x} cy={y} r={wide / 120} strokeWidth={wide / 400} />
          ))}
          {children({ inPicture: url !== '', wide })}
        </svg>
      )}
    </div>
  )
}
