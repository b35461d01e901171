import type { Face } from '../api/types'
import type { TableColumn } from '../rows/cells'

export type Side = 'engine' | 'gearbox'
export type Hole = Face['holes'][number]

/** A hole pattern and where it is: of a casting that is fitted, or of a part on the shelf. */
export interface FaceOf {
  readonly side: Side
  readonly face: Face
  /** What an act calls its lists: `engine_face`, `parts.face`. */
  readonly list: string
  /** Number of the part that it belongs to, on the shelf. */
  readonly of?: number
  /** Its place in the document. */
  readonly at: string
  /** Address of a hole by its number. */
  readonly address: (n: number) => string
  /** Address of a land without a hole. */
  readonly land: (n: number) => string
  /** Address of a distance between holes. */
  readonly reading: (n: number) => string
  /** Address of a set of points, and of a point of one. */
  readonly set: (n: number) => string
  readonly point: (n: number) => string
  /** What the casting is called. */
  readonly called: string
}

export const fittedFace = (side: Side, face: Face): FaceOf => ({ side, face, list: `${side}_face`, at: `/${side}_face`, address: (n) => `${side}.${n}`, land: (n) => `${side}.land${n}`, reading: (n) => `${side}.reading${n}`, set: (n) => `${side}.set${n}`, point: (n) => `${side}.point${n}`, called: side })

const FASTENINGS = ['', 'countersunk', 'cap head', 'hex head', 'tapped', 'nut']
const BACKINGS = ['metal', 'air', 'oil', 'water', 'unknown']
export const PINS = ['not said', 'none', 'casting', 'plate', 'both'] as const

const column = (field: string, label: string, more: Partial<TableColumn> = {}): TableColumn => ({ field, label, kind: 'length', choices: [], needed: false, mirrors: false, ...more })
const PLACE = [column('u', 'across', { needed: true, mirrors: true }), column('v', 'up', { needed: true })]

/** What is typed of every hole of a kind; the rest opens under it. */
export const COLUMNS: Readonly<Record<Hole['role'], readonly TableColumn[]>> = {
  bolt: [
    ...PLACE,
    column('d', 'size', { kind: 'thread', needed: true }),
    column('land', 'land'),
    column('plate_hole', 'plate hole'),
    column('recess', 'recess'),
    column('fastening', 'fastened by', { kind: 'choice', choices: FASTENINGS, nullable: true }),
    column('backing', 'behind it', { kind: 'choice', choices: BACKINGS }),
  ],
  dowel: [...PLACE, column('d', 'size', { needed: true }), column('land', 'land'), column('stand_out', 'stands out'), column('mating_depth', 'depth for it')],
}
export const LAND: readonly TableColumn[] = [column('name', 'name', { kind: 'text' }), ...PLACE, column('d', 'size', { needed: true })]

/** A distance between two holes, or from the crank axis to one. */
export const READING: readonly TableColumn[] = [
  column('a', 'from hole', { kind: 'whole' }),
  column('b', 'to hole', { kind: 'whole' }),
  column('value', 'reading', { needed: true }),
  column('over', 'over', { kind: 'choice', choices: ['centres', 'outside edges', 'inside edges'] }),
  column('along', 'read', { kind: 'choice', choices: ['straight', 'across', 'up'] }),
]
/** Points that were taken together. */
export const SET: readonly TableColumn[] = [
  column('name', 'name', { kind: 'text' }),
  column('taken_from', 'seen from', { kind: 'choice', choices: ['behind', 'front'] }),
  column('scale', 'its scale is', { kind: 'choice', choices: ['true', 'its own'] }),
]
/** A hole in a set of points. */
export const POINT: readonly TableColumn[] = [
  column('of', 'of set', { kind: 'whole' }),
  column('hole', 'hole', { kind: 'whole' }),
  column('x', 'right', { needed: true }),
  column('y', 'up', { needed: true }),
]
export const LIES = [['', 'not said'], 'left', 'right', 'above', 'below'] as const

/** What a hole has beside its line, a bolt hole all of it. */
export const BORE = [['bore', 'diameter of the hole itself']] as const
export const MORE = [
  ...BORE,
  ['pitch', 'pitch of the thread'],
  ['depth', 'thread found, deep'],
  ['flange', 'flange here'],
  ['free', 'free circle for its head'],
  ['off_u', 'drilled off, across'],
  ['off_v', 'drilled off, up'],
] as const

export const letterOf = (side: Side) => side.charAt(0).toUpperCase()
export const pinsOf = (h: Hole): string => {
  if (h.pin_in_casting == null || h.pin_in_plate == null) return 'not said'
  return h.pin_in_casting ? (h.pin_in_plate ? 'both' : 'casting') : h.pin_in_plate ? 'plate' : 'none'
}
