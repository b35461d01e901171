import { describe, expect, it } from 'vitest'
import type { PatternFound } from '../../frontend/src/api/types'
import type { FaceOf } from '../../frontend/src/faces/holes'
import { clockwise, takeIn } from '../../frontend/src/faces/pattern'

const circle = (x: number, y: number) => ({ circle: { x, y, d: 11, pm: 0.2, d_pm: 0.2 }, layer: '', px: [0, 0, 0] })
const found = (unit: string) => ({ circles: [circle(0, 25.4), circle(50.8, 0), circle(1, 1)], lines: [], unit, layers: [], notes: [], size: [0, 0] }) as unknown as PatternFound
const of = (unit: 'mm' | 'in') => ({ face: { unit, holes: [{ n: 4 }], sets: [{ n: 2 }] }, list: 'engine_face', of: undefined }) as unknown as FaceOf
const taken = { name: 'face.dxf', seen: 'behind', picture: false } as const

describe('what takes circles into a pattern', () => {
  it('numbers new holes on, keeps the others, and leaves out what is left out', () => {
    const [holes, set, points] = takeIn(of('mm'), found('mm'), ['new', '4', ''], taken) as unknown as [{ rows: unknown[] }, { row: unknown }, { rows: { of: number; hole: number | null; x: string; evidence: { pm: string } }[] }]
    expect(holes.rows).toEqual([{ bore: '11.000' }])
    expect(set.row).toEqual({ name: 'face.dxf', taken_from: 'behind', scale: 'true' })
    expect(points.rows.map((p) => [p.of, p.hole, p.x])).toEqual([
      [3, 5, '0.000'],
      [3, 4, '50.800'],
    ])
    expect(points.rows[0]?.evidence.pm).toBe('0.200 mm')
  })

  it('writes figures in the unit of the face, and pixels as they are with a scale of their own', () => {
    const inches = takeIn(of('in'), found('mm'), ['axis', '4', ''], taken) as unknown as [{ row: unknown }, { rows: { hole: number | null; y: string; evidence: { pm: string } }[] }]
    expect(inches[1].rows[0]).toMatchObject({ hole: null, y: '1.0000', evidence: { pm: '0.200 mm' } })
    const pixels = takeIn(of('in'), found('px'), ['axis', '4', ''], { ...taken, picture: true }) as unknown as [{ row: unknown }, { rows: { x: string; evidence: { pm: string; tool: string } }[] }]
    expect(pixels[0].row).toMatchObject({ scale: 'its own' })
    expect(pixels[1].rows[1]).toMatchObject({ x: '50.80', evidence: { pm: '0.200 in', tool: 'photo' } })
  })

  it('goes round clockwise from the top', () => {
    expect(clockwise({ ...found('mm'), circles: [circle(0, -9), circle(9, 0), circle(0, 9), circle(-9, 0)] } as unknown as PatternFound)).toEqual([2, 1, 0, 3])
  })
})
