import type { ReactNode } from 'react'
import './hints.css'

/** A word of the shop that takes a picture: what it means, and the sketch. Lines are `cut` metal, `thin` helpers and `size` for what is measured. */
export interface Sketch {
  readonly says: string
  readonly draws: ReactNode
}

/** A dimension line between two points, level or upright, with ticks. */
const size = (x1: number, y1: number, x2: number, y2: number) => {
  const [tx, ty] = x1 === x2 ? [5, 0] : [0, 5]
  return <path className="size" d={`M${x1},${y1}L${x2},${y2}M${x1 - tx},${y1 - ty}l${2 * tx},${2 * ty}M${x2 - tx},${y2 - ty}l${2 * tx},${2 * ty}`} />
}
const words = (x: number, y: number, text: string) => (
  <text x={x} y={y} textAnchor="middle">
    {text}
  </text>
)

/** Sketches by the word that they stand beside. */
export const SKETCHES: Readonly<Record<string, Sketch>> = {
  land: {
    says: 'The flat, raised metal round a hole, measured across. Outside it the casting lies lower, and no head or nut bears.',
    draws: (
      <>
        <path className="cut" d="M10,95V70Q30,70 34,50H126Q130,70 150,70V95" />
        <path className="thin" d="M70,50V95M90,50V95" />
        {size(34, 34, 126, 34)}
        {words(80, 24, 'land')}
      </>
    ),
  },
  recess: {
    says: 'How deep the head goes into the plate: the depth of the counterbore or countersink, from the plate’s face.',
    draws: (
      <>
        <path className="cut" d="M10,40H50V62H68V95M150,40H110V62H92V95" />
        <path className="thin" d="M54,46H106V62H54ZM70,62V95M90,62V95" />
        {size(34, 40, 34, 62)}
        {words(34, 82, 'recess')}
      </>
    ),
  },
  plate_hole: {
    says: 'The diameter of the hole in the plate that the screw passes; larger than the screw by its clearance.',
    draws: (
      <>
        <path className="cut" d="M10,40H62V90H10M150,40H98V90H150" />
        <path className="thin" d="M68,20V100M92,20V100" />
        {size(62, 30, 98, 30)}
        {words(80, 16, 'plate hole')}
      </>
    ),
  },
  stand_out: {
    says: 'How far the pin stands out of the face that it is set in.',
    draws: (
      <>
        <path className="cut" d="M10,60H66V96M150,60H94V96" />
        <path className="cut" d="M66,96V26H94V96" />
        {size(116, 26, 116, 60)}
        {words(134, 46, 'out')}
      </>
    ),
  },
  mating_depth: {
    says: 'The depth of the hole that the pin goes into, on the other face, from that face to its bottom.',
    draws: (
      <>
        <path className="cut" d="M10,34H62V84H98V34H150" />
        {size(116, 34, 116, 84)}
        {words(136, 62, 'depth')}
      </>
    ),
  },
  backing: {
    says: 'What a drill meets past the end of the thread: more metal, open air, or a wall with oil or water behind it. Look from the other side, or ask; never drill towards an unknown wall.',
    draws: (
      <>
        <path className="cut" d="M10,20H66V66H94V20H150M10,84H150" />
        <path className="thin" d="M66,66L80,76L94,66M20,96q8,-6 16,0t16,0t16,0t16,0t16,0t16,0t16,0" />
        {words(80, 60, 'thread')}
        {words(80, 112, 'oil, water, air?')}
      </>
    ),
  },
  outline: {
    says: 'Hull: straight from land to land, quick to saw, covers the hollows between. Following: goes in and out with both castings, lighter, wants a machine.',
    draws: (
      <>
        <path className="cut" d="M14,84L28,36L60,24L70,80Z" />
        <path className="cut" d="M96,84Q92,60 108,60Q102,34 116,32Q128,44 142,28Q150,44 138,56Q148,72 146,84Q126,74 96,84Z" />
        {words(44, 106, 'hull')}
        {words(120, 106, 'following')}
      </>
    ),
  },
  class_: {
    says: 'What the body is for the one beside it: plain metal, hot exhaust, a fan, steering, a fuel or brake line, wiring. It decides the gap that they need.',
    draws: (
      <>
        <path className="cut" d="M16,30H66V84H16ZM104,30H144V84H104Z" />
        {size(66, 57, 104, 57)}
        {words(41, 60, 'hot')}
        {words(124, 60, 'line')}
      </>
    ),
  },
  axis: {
    says: 'Which way the length of a round body runs: along the vehicle, across it, or upright.',
    draws: (
      <>
        <path className="cut" d="M26,62L70,76M26,62L26,22M26,62L60,38" />
        {words(90, 84, 'along')}
        {words(26, 16, 'upright')}
        {words(84, 40, 'across')}
      </>
    ),
  },
}
