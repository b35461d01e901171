// An answer tells what it makes different; the screen lays it on what it shows. Units as they are shown.
import { describe, expect, it } from 'vitest'
import { changed, differing, nearer } from '../../frontend/src/api/changed'
import type { Assessment, BuildChange, BuildState } from '../../frontend/src/api/types'
import { figure, inShown, written } from '../../frontend/src/api/units'

const finding = (id: string, verdict: string) => ({ id, verdict }) as unknown as Assessment['findings'][number]
const size = (value: number | null) => ({ value }) as unknown as Assessment['quantities'][string]
const stood = {
  findings: [finding('a', 'goes'), finding('b', 'fouls'), finding('c', 'goes')],
  quantities: { x: size(1), y: size(2), 'mounts.3.kz': size(9) },
  next: [{ address: 'y' }],
  tallies: {},
  by_question: { 'q.one': { goes: 2 }, 'q.two': { fouls: 1 } },
  asked: ['x', 'y'],
  opens: [],
} as unknown as Assessment
const same = { findings: [], altered: {}, order: null, quantities: {}, gone: [], next: null, tallies: {}, by_question: {}, asked: null, opens: null, boards: {} }
const told = (more: object) => ({ ...same, ...more }) as unknown as BuildChange

describe('what differs', () => {
  it('leaves everything else as it was, the very same objects', () => {
    const now = differing(stood, told({ altered: { b: { verdict: 'goes' } }, quantities: { y: size(3) }, by_question: { 'q.two': { goes: 1 } } }))
    expect(now.findings.map((f) => [f.id, f.verdict])).toEqual([['a', 'goes'], ['b', 'goes'], ['c', 'goes']])
    expect(now.findings[0]).toBe(stood.findings[0])
    expect(now.quantities['x']).toBe(stood.quantities['x'])
    expect(now.quantities['y']).toEqual({ value: 3 })
    expect(now.next).toBe(stood.next)
    expect(now.asked).toBe(stood.asked)
    expect(now.by_question).toEqual({ 'q.one': { goes: 2 }, 'q.two': { goes: 1 } })
  })

  it('takes out what is gone and puts new findings where they belong', () => {
    const now = differing(stood, told({ findings: [finding('d', 'tight')], order: ['d', 'a', 'c'], gone: ['mounts.3.kz'], asked: ['x'] }))
    expect(now.findings.map((f) => f.id)).toEqual(['d', 'a', 'c'])
    expect(Object.keys(now.quantities)).toEqual(['x', 'y'])
    expect(now.asked).toEqual(['x'])
  })

  it('lays the patch on the document with its escaped names and leaves the old one alone', () => {
    const was = { tag: 'e-1', version: 1, document: { 'a/b': { 'c~d': 1 }, rows: [{ n: 1 }, { n: 2 }] }, assessment: stood } as unknown as BuildState
    const patch = [
      { op: 'replace', path: '/a~1b/c~0d', value: 2 },
      { op: 'remove', path: '/rows/0' },
      { op: 'add', path: '/rows/1', value: { n: 3 } },
    ]
    const now = changed(was, told({ version: 2, tag: 'e-2', document: patch, between: [] }))
    expect(now.document).toEqual({ 'a/b': { 'c~d': 2 }, rows: [{ n: 2 }, { n: 3 }] })
    expect(was.document).toEqual({ 'a/b': { 'c~d': 1 }, rows: [{ n: 1 }, { n: 2 }] })
    expect([now.version, now.tag]).toEqual([2, 'e-2'])
  })
})

describe('figures', () => {
  it('take the digits that their ± leaves, two more in inches, and a true minus', () => {
    expect(figure(25.4, 'length', 'mm')).toBe('25.40')
    expect(figure(25.4, 'length', 'mm', 0.4)).toBe('25.4')
    expect(figure(25.4, 'length', 'in')).toBe('1.0000')
    expect(figure(-0.001, 'length', 'mm')).toBe('0.00')
    expect(written(-3.5, 'length', 'mm')).toBe('−3.50 mm')
    expect(inShown(100, 'torque', 'in')).toBeCloseTo(73.756, 3)
    expect(written(20, 'temperature', 'in')).toContain('°C')
    expect(written(3.785411784, 'volume', 'in')).toBe('1.00 US gal')
  })
})

describe('what the question that is looked at says first', () => {
  const of = (id: string, question: string, verdict: string) => ({ id, question, verdict }) as unknown as Assessment['findings'][number]
  const stored = { ...stood, findings: [of('a', 'q', 'goes'), of('b', 'q', 'goes'), of('c', 'other', 'goes')] }
  const last = { ...stood, quantities: { x: size(8), y: size(9) }, findings: [of('a', 'q', 'fouls'), of('b', 'q', 'goes'), of('c', 'other', 'tight')] } as unknown as Assessment
  const near = (more: object) => ({ findings: [], altered: {}, without: [], quantities: {}, boards: {}, ...more }) as never

  it('is laid on what is stored, so that what goes back reads as stored; the others stand as they were', () => {
    const now = nearer(stored, last, near({ altered: { b: { verdict: 'tight' } }, quantities: { y: size(3) } }), 'q')
    expect(now.findings.map((f) => [f.id, f.verdict])).toEqual([['a', 'goes'], ['b', 'tight'], ['c', 'tight']])
    expect([now.quantities['x'], now.quantities['y']]).toEqual([size(1), size(3)])
  })
  it('takes findings out and in', () => {
    const now = nearer(stored, last, near({ without: ['b'], findings: [of('new', 'q', 'fouls')] }), 'q')
    expect(now.findings.map((f) => f.id)).toEqual(['a', 'c', 'new'])
  })
})
