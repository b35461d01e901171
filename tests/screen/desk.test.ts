// The desk: entries wait in line, each is sent once, nothing that was typed vanishes.
import { describe, expect, it } from 'vitest'
import { actsOf, Desk, type Answer, type Held, type World } from '../../frontend/src/entry/desk'
import { secondOfPair } from '../../frontend/src/entry/hands'
import { GaugeEar } from '../../frontend/src/tray/gauge'
import type { Locker } from '../../frontend/src/entry/kept'

const part = (field: string, text: string) => ({ field, words: field, text, acts: [{ do: 'read' as const, key: field, typed: text }] })

/** A server that answers as it is told, one answer at a time, and keeps what came in which order. */
function bench(answers: Answer[] = []) {
  const sent: Held[] = []
  const later: (() => void)[] = []
  const told: string[] = []
  const screen = { version: 1 }
  let clock = 1000
  const world: World = {
    send: (entry) => {
      sent.push(entry)
      return Promise.resolve(answers.shift() ?? { kind: 'stored' })
    },
    refused: (entry) => told.push(entry.text),
    seen: () => `e-${screen.version}`,
    now: () => clock++,
    later: (act) => later.push(act),
  }
  return { desk: new Desk(world), sent, later, told, screen }
}

/** A browser's store of one tab, with what other tabs left. */
function locker(mine: string | null = null, others: string[] = []) {
  const kept = { text: mine }
  const found: Locker = {
    read: () => kept.text,
    write: (text) => (kept.text = text),
    orphans: (take) => {
      others.splice(0).forEach(take)
      return Promise.resolve()
    },
  }
  return { found, kept }
}

describe('the line of entries', () => {
  it('is sent one after the other, each once, under its own key', async () => {
    const { desk, sent } = bench()
    for (const text of ['1', '2', '3']) desk.enter(part(`f${text}`, text))
    expect(desk.now().waiting.length).toBe(3)
    expect(await desk.idle()).toBe(true)
    expect(sent.map((e) => e.text)).toEqual(['1', '2', '3'])
    expect(new Set(sent.map((e) => e.key)).size).toBe(3)
  })

  it('waits while the server does not answer, says since when, and sends the same key again', async () => {
    const { desk, sent, later } = bench([{ kind: 'no answer' }, { kind: 'no answer' }])
    desk.enter(part('a', '1'))
    desk.enter(part('b', '2'))
    expect(await desk.idle()).toBe(false)
    expect([desk.now().waiting.length, desk.now().since]).toEqual([2, 1000])
    later.shift()?.()
    await desk.idle()
    expect(desk.now().since).toBe(1000)
    later.shift()?.()
    await desk.run()
    await new Promise((done) => setTimeout(done))
    expect([desk.now().waiting.length, desk.now().since]).toEqual([0, null])
    expect(sent.map((e) => e.text)).toEqual(['1', '1', '1', '2'])
    expect(sent[0]?.key).toBe(sent[2]?.key)
  })

  it('keeps a refused text in its field, stops the run, and lets the next try replace it', async () => {
    const { desk, told } = bench([{ kind: 'refused', words: 'Is 1,234 1234?' }])
    desk.enter(part('a', '1,234'))
    await desk.idle()
    expect([desk.held('a')?.how, desk.held('a')?.text, desk.held('a')?.wrong, desk.now().stopped]).toEqual(['refused', '1,234', 'Is 1,234 1234?', true])
    expect(told).toEqual(['1,234'])
    desk.go()
    desk.enter(part('a', '1234'))
    await desk.idle()
    expect([desk.held('a'), desk.now().stopped]).toEqual([undefined, false])
  })

  it('turns what would lapse readings into a trial that says why, and goes on with the next', async () => {
    const { desk, sent } = bench([{ kind: 'lapses', words: 'Keeping this lapses the runout.' }])
    desk.enter(part('plate', '17'))
    desk.enter(part('nose', '24'))
    await desk.idle()
    expect(desk.now().trial?.why).toBe('Keeping this lapses the runout.')
    expect([desk.held('plate')?.how, sent.map((e) => e.text)]).toEqual(['trial', ['17', '24']])
  })
})

describe('what was on the screen', () => {
  it('goes with an entry: as it was when typing began, again after a refusal, and nothing behind an own entry of the same field', async () => {
    const { desk, sent, screen } = bench([{ kind: 'refused', words: 'Someone else was quicker' }])
    desk.draft('a', '2')
    screen.version = 2
    desk.draft('a', '24')
    desk.enter(part('a', '24'))
    await desk.idle()
    desk.enter(part('a', '24'))
    desk.enter(part('a', '25'))
    await desk.idle()
    expect(sent.map((e) => e.seen)).toEqual(['e-1', 'e-2', ''])
  })
})

describe('what the browser keeps', () => {
  it('holds what waits, what was refused, drafts and the trial, and nothing once all is stored', async () => {
    const { desk } = bench([{ kind: 'no answer' }])
    const { found, kept } = locker()
    await desk.open(found)
    desk.enter(part('a', '1'))
    desk.draft('b', '2')
    desk.tryValues({ plate_mm: 17 })
    const again = bench()
    await again.desk.open(locker(kept.text).found)
    await again.desk.idle()
    expect(again.sent.map((e) => [e.text, e.key])).toEqual([['1', desk.now().waiting[0]?.key]])
    expect([again.desk.now().drafts, again.desk.now().trial?.values]).toEqual([{ b: '2' }, { plate_mm: 17 }])
    await desk.run()
    desk.draft('b', null)
    desk.drop()
    await desk.run()
    expect(kept.text).toBeNull()
  })

  it('takes over what a closed tab left, before nothing of its own, and survives a record that is no record', async () => {
    const gone = JSON.stringify({ waiting: [{ ...part('a', '1'), how: 'waiting', key: 'k', wrong: '' }], refused: [], drafts: { c: '3' }, trial: null, tool: '' })
    const { desk, sent } = bench()
    await desk.open(locker('{', [gone]).found)
    await desk.idle()
    expect([sent.map((e) => e.key), desk.now().drafts]).toEqual([['k'], { c: '3' }])
  })
})

describe('a trial', () => {
  it('takes choices while it is open, gives up a part that is stored meanwhile, and is none once empty', async () => {
    const { desk, sent } = bench()
    desk.choose(part('x', 'crank'))
    await desk.idle()
    desk.try(part('a', '5'))
    desk.choose(part('x', 'spacer'))
    expect([sent.length, desk.now().trial?.parts.map((p) => p.text)]).toEqual([1, ['5', 'spacer']])
    desk.enter(part('a', '6'))
    expect(desk.now().trial?.parts.map((p) => p.text)).toEqual(['spacer'])
    desk.enter(part('x', 'crank'))
    expect(desk.now().trial).toBeNull()
  })

  it('is sent as what was entered, then the figures that were chosen, in their unit', () => {
    const { desk } = bench()
    desk.tryValues({ plate_mm: 17.60004 })
    desk.try(part('a', '5'))
    expect(actsOf(desk.now().trial, () => 'mm')).toEqual([{ do: 'read', key: 'a', typed: '5' }, { do: 'plan', key: 'plate_mm', typed: '17.6', unit: 'mm' }])
    expect(actsOf(null, () => '')).toEqual([])
  })
})

describe('keys that end an entry', () => {
  it('takes Tab and Enter in one breath for one end, and two Enters for two', () => {
    expect(secondOfPair('Tab', true, 1000)).toBe(false)
    expect(secondOfPair('Enter', false, 1004)).toBe(true)
    expect(secondOfPair('Enter', true, 1100)).toBe(false)
    expect(secondOfPair('Enter', false, 1110)).toBe(false)
    expect(secondOfPair('Tab', false, 2000)).toBe(false)
  })
})

describe('trials that are set aside', () => {
  it('lie side by side under their names, survive a reload, and are taken up as they were', async () => {
    const { desk } = bench()
    const { found, kept } = locker()
    await desk.open(found)
    desk.tryValues({ plate_mm: 17 })
    desk.setAside('thin')
    expect(desk.now().trial).toBeNull()
    desk.try(part('nose_mm', '28'))
    desk.setAside('long nose')
    const again = bench()
    await again.desk.open(locker(kept.text).found)
    expect(again.desk.now().aside.map((a) => a.name)).toEqual(['thin', 'long nose'])
    again.desk.takeUp('thin')
    expect(again.desk.now().trial?.values).toEqual({ plate_mm: 17 })
    expect(again.desk.now().aside.length).toBe(2)
    again.desk.tryValues({ plate_mm: 16 })
    again.desk.setAside('thin')
    expect(again.desk.now().aside.map((a) => a.name)).toEqual(['long nose', 'thin'])
    expect(again.desk.now().aside[1]?.trial.values).toEqual({ plate_mm: 16 })
    again.desk.forgetAside('long nose')
    again.desk.takeUp('long nose')
    expect(again.desk.now().aside.map((a) => a.name)).toEqual(['thin'])
    expect(again.desk.now().trial).toBeNull()
  })
})

describe('the tray', () => {
  const loose = (text: string) => ({ text, why: 'no field', from: 'gauge' as const })

  it('keeps what came over a reload, and says what it could not hold', async () => {
    const { found, kept } = locker()
    const first = bench().desk
    await first.open(found)
    first.lay([loose('12.3'), loose('4.5')])
    const again = bench().desk
    await again.open(locker(kept.text).found)
    expect(again.now().tray.map((l) => l.text)).toEqual(['12.3', '4.5'])
    again.lay(Array.from({ length: 600 }, (_, i) => loose(String(i))))
    expect(again.now().tray).toHaveLength(500)
    expect(again.now().spilt).toBe(102)
    again.clear(again.now().tray.map((l) => l.id))
    expect([again.now().tray.length, again.now().spilt]).toEqual([0, 0])
  })

  it('hears a gauge and no hand', () => {
    const heard: string[] = []
    const ear = new GaugeEar((text) => heard.push(text))
    let at = 0
    const type = (text: string, each: number) => [...text, 'Enter'].map((key) => ear.key(key, (at += each)))
    expect(type('-12.34', 8)).toEqual(Array(7).fill(true))
    expect(heard).toEqual(['-12.34'])
    expect(type('3', 400).at(-1)).toBe(false)
    expect(type('garbage', 8).every((taken) => !taken)).toBe(true)
    type('01A+0017.46', 8)
    type('1'.repeat(200), 8)
    expect(heard.slice(1).map((t) => t.length <= 40)).toEqual([true, true])
    expect(heard[1]).toBe('01A+0017.46')
  })
})
