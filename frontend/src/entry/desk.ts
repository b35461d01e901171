import type { Act } from '../api/types'
import { newName, type Locker } from './kept'

/** Something that was entered in one field: in words, as it was typed, and what it does. */
export interface Part {
  /** Id of the field on the screen. */
  readonly field: string
  readonly words: string
  readonly text: string
  /** What stood there, in the same words. */
  readonly was?: string
  readonly acts: readonly Act[]
}

/** An entry that the server does not have yet, or did not take; a part of the trial that is under way. */
export interface Held extends Part {
  readonly how: 'waiting' | 'refused' | 'trial'
  readonly key: string
  /** Tag of the version that was on the screen when it was begun; empty where an entry of one's own still waited for the same field. */
  readonly seen: string
  /** Why it was refused. */
  readonly wrong: string
}

export interface Trying {
  /** Tag of the version that it was begun on. */
  readonly seen: string
  /** Figures that were dragged or tried, by dimension. */
  readonly values: Readonly<Record<string, number>>
  readonly parts: readonly Held[]
  /** Why it is a trial, where nobody asked for one. */
  readonly why: string
}

/** A trial that was set aside under a name, to be compared with others. */
export interface Alternative {
  readonly name: string
  readonly trial: Trying
}

/** A reading that belongs nowhere yet: a gauge sent it while no field was in hand, a table held it. */
export interface Loose {
  readonly id: string
  readonly text: string
  /** Why it lies here. */
  readonly why: string
  readonly from: 'gauge' | 'table'
  /** The size that it is said to be, where something was said. */
  readonly to?: string
}

export interface DeskState {
  readonly waiting: readonly Held[]
  readonly refused: readonly Held[]
  readonly drafts: Readonly<Record<string, string>>
  /** Tag of the version that each draft was begun on. */
  readonly begun: Readonly<Record<string, string>>
  readonly trial: Trying | null
  /** Trials that were set aside, in the order in which they were. */
  readonly aside: readonly Alternative[]
  /** The tray of loose readings, and how many came that it could not hold. */
  readonly tray: readonly Loose[]
  readonly spilt: number
  /** The tool in hand: it goes with this and the following readings. */
  readonly tool: string
  /** Since when the server has not answered, in milliseconds. */
  readonly since: number | null
  /** A run of readings is stopped until the hands choose a field again. */
  readonly stopped: boolean
}

export type Answer = { readonly kind: 'stored' } | { readonly kind: 'lapses' | 'refused'; readonly words: string } | { readonly kind: 'no answer' }

/** What the desk needs of the world: sending, a sound, time. */
export interface World {
  readonly send: (entry: Held) => Promise<Answer>
  readonly refused: (entry: Held) => void
  /** Tag of the version that is on the screen. */
  readonly seen: () => string
  readonly now: () => number
  readonly later: (act: () => void, ms: number) => void
}

const EMPTY: DeskState = { waiting: [], refused: [], drafts: {}, begun: {}, trial: null, aside: [], tray: [], spilt: 0, tool: '', since: null, stopped: false }
const withoutKey = (all: Readonly<Record<string, string>>, key: string) => Object.fromEntries(Object.entries(all).filter(([k]) => k !== key))

const MOST_LOOSE = 500
const RETRY_MS = 1000
const RETRY_MOST_MS = 8000

/**
 * The desk between the hands and the server: entries wait in line and are sent one after the other, each once;
 * what is refused keeps its text; what would lapse readings becomes a trial that says why. All of it is kept in the browser.
 */
export class Desk {
  private state: DeskState = EMPTY
  private readonly listeners = new Set<() => void>()
  private readonly world: World
  private locker: Locker | null = null
  private sending = false
  private pause = RETRY_MS
  private idlers: (() => void)[] = []

  constructor(world: World) {
    this.world = world
  }

  readonly subscribe = (tell: () => void): (() => void) => {
    this.listeners.add(tell)
    return () => this.listeners.delete(tell)
  }

  readonly now = (): DeskState => this.state

  private put(change: Partial<DeskState>): void {
    this.state = { ...this.state, ...change }
    const { waiting, refused, drafts, begun, trial, aside, tray, tool } = this.state
    const empty = waiting.length + refused.length + aside.length + tray.length + Object.keys(drafts).length === 0 && trial === null && tool === ''
    this.locker?.write(empty ? null : JSON.stringify({ waiting, refused, drafts, begun, trial, aside, tray, tool }))
    this.listeners.forEach((tell) => tell())
  }

  /** Takes over what this tab left behind, and what tabs did that are gone; then sends. */
  readonly open = async (locker: Locker): Promise<void> => {
    this.locker = locker
    this.take(locker.read())
    await locker.orphans((text) => this.take(text))
  }

  private take(text: string | null): void {
    let kept: Partial<DeskState>
    try {
      kept = JSON.parse(text ?? '{}') as Partial<DeskState>
    } catch {
      return // not ours to mend: a record of another version
    }
    const { waiting, refused, drafts, begun, trial, aside, tray, tool } = this.state
    this.put({
      waiting: [...(kept.waiting ?? []), ...waiting],
      refused: [...(kept.refused ?? []), ...refused],
      drafts: { ...kept.drafts, ...drafts },
      begun: { ...kept.begun, ...begun },
      trial: trial ?? kept.trial ?? null,
      aside: [...(kept.aside ?? []), ...aside],
      tray: [...(kept.tray ?? []), ...tray],
      tool: tool || (kept.tool ?? ''),
    })
    void this.run()
  }

  private newHeld(part: Part, how: Held['how']): Held {
    const own = this.held(part.field)
    const seen = own === undefined || own.how === 'refused' ? (this.state.begun[part.field] ?? this.world.seen()) : ''
    return { ...part, how, key: newName(), seen, wrong: '' }
  }

  /** What is held for a field: refused, waiting, or tried. The same object until it changes. */
  readonly held = (field: string): Held | undefined => {
    const { refused, waiting, trial } = this.state
    return refused.find((h) => h.field === field) ?? waiting.findLast((h) => h.field === field) ?? trial?.parts.findLast((h) => h.field === field)
  }

  /** Stores an entry: it waits in line behind the ones before it. */
  readonly enter = (part: Part): void => {
    const held = this.newHeld(part, 'waiting')
    const trial = this.without(part.field)
    this.put({ waiting: [...this.state.waiting, held], refused: this.state.refused.filter((h) => h.field !== part.field), ...this.withoutDraft(part.field), trial })
    void this.run()
  }

  private withoutDraft(field: string): Pick<DeskState, 'drafts' | 'begun'> {
    return { drafts: withoutKey(this.state.drafts, field), begun: withoutKey(this.state.begun, field) }
  }

  /** The trial without what it said of a field that is now stored. */
  private without(field: string): Trying | null {
    const { trial } = this.state
    if (trial === null || !trial.parts.some((h) => h.field === field)) return trial
    const parts = trial.parts.filter((h) => h.field !== field)
    return parts.length + Object.keys(trial.values).length === 0 ? null : { ...trial, parts }
  }

  /** A choice: it belongs to the trial where one is under way, and is stored otherwise. */
  readonly choose = (part: Part): void => (this.state.trial === null ? this.enter(part) : this.try(part))

  /** Only tries an entry. */
  readonly try = (part: Part, why = ''): void => {
    const { trial } = this.state
    const parts = [...(trial?.parts ?? []).filter((h) => h.field !== part.field), this.newHeld(part, 'trial')]
    this.put({ trial: { seen: trial?.seen ?? this.world.seen(), values: trial?.values ?? {}, parts, why: why || (trial?.why ?? '') }, refused: this.state.refused.filter((h) => h.field !== part.field), ...this.withoutDraft(part.field) })
  }

  /** Tries figures of dimensions that one may choose. */
  readonly tryValues = (values: Readonly<Record<string, number>>): void => {
    const { trial } = this.state
    this.put({ trial: { seen: trial?.seen ?? this.world.seen(), values: { ...trial?.values, ...values }, parts: trial?.parts ?? [], why: trial?.why ?? '' } })
  }

  /** What others changed meanwhile was told: keeping it after that replaces theirs. */
  readonly lookedAgain = (): void => {
    if (this.state.trial !== null) this.put({ trial: { ...this.state.trial, seen: this.world.seen() } })
  }

  readonly drop = (): void => this.put({ trial: null })

  /** Puts the trial aside under a name; one of that name is replaced. */
  readonly setAside = (name: string): void => {
    const { trial, aside } = this.state
    if (trial !== null) this.put({ trial: null, aside: [...aside.filter((a) => a.name !== name), { name, trial }] })
  }

  /** Takes a trial up again that was set aside; the one that is under way is dropped. What others changed since is held against it as against any trial. */
  readonly takeUp = (name: string): void => {
    const found = this.state.aside.find((a) => a.name === name)
    if (found !== undefined) this.put({ trial: found.trial })
  }

  /** Lets go of one that was set aside. */
  readonly forgetAside = (name: string): void => this.put({ aside: this.state.aside.filter((a) => a.name !== name) })

  /** What is being typed and was not entered yet. */
  readonly draft = (field: string, text: string | null): void => {
    if (text === (this.state.drafts[field] ?? null)) return
    if (text === null) this.put(this.withoutDraft(field))
    else this.put({ drafts: { ...this.state.drafts, [field]: text }, begun: { ...this.state.begun, [field]: this.state.begun[field] ?? this.world.seen() } })
  }

  /** Lets go of what was refused in a field. */
  readonly forget = (field: string): void => {
    if (this.state.refused.some((h) => h.field === field)) this.put({ refused: this.state.refused.filter((h) => h.field !== field) })
  }

  /** Lays readings in the tray; what it cannot hold is counted, so that nobody thinks it was kept. */
  readonly lay = (readings: readonly Omit<Loose, 'id'>[]): void => {
    if (readings.length === 0) return
    const free = Math.max(0, MOST_LOOSE - this.state.tray.length)
    this.put({ tray: [...this.state.tray, ...readings.slice(0, free).map((r) => ({ ...r, id: newName() }))], spilt: this.state.spilt + Math.max(0, readings.length - free) })
  }

  /** Takes readings out of the tray. */
  readonly clear = (ids: readonly string[]): void => {
    const tray = this.state.tray.filter((l) => !ids.includes(l.id))
    this.put({ tray, spilt: tray.length === 0 ? 0 : this.state.spilt })
  }

  readonly pick = (tool: string): void => this.put({ tool })

  /** The hands chose a field: the run goes on from there. */
  readonly go = (): void => {
    if (this.state.stopped) this.put({ stopped: false })
  }

  /** Resolves when nothing waits any more, or at once with false while the server does not answer. */
  readonly idle = async (): Promise<boolean> => {
    if (this.state.waiting.length > 0 && this.state.since === null) await new Promise<void>((done) => this.idlers.push(done))
    return this.state.waiting.length === 0
  }

  /** Sends what waits; called again when the server may be back. */
  readonly run = async (): Promise<void> => {
    if (this.sending) return
    this.sending = true
    for (let entry = this.state.waiting[0]; entry !== undefined; entry = this.state.waiting[0]) {
      const answer = await this.world.send(entry)
      if (answer.kind === 'no answer') {
        this.put({ since: this.state.since ?? this.world.now() })
        this.world.later(() => void this.run(), this.pause)
        this.pause = Math.min(this.pause * 2, RETRY_MOST_MS)
        break
      }
      this.pause = RETRY_MS
      this.put({ waiting: this.state.waiting.slice(1), since: null })
      if (answer.kind === 'lapses') this.try(entry, answer.words)
      if (answer.kind === 'refused') {
        const refused = { ...entry, how: 'refused' as const, wrong: answer.words }
        this.put({ refused: [...this.state.refused.filter((h) => h.field !== entry?.field), refused], stopped: true })
        this.world.refused(refused)
      }
    }
    this.sending = false
    this.idlers.splice(0).forEach((done) => done())
  }
}

/** Acts of a trial: what was entered, then the figures that were chosen. */
export function actsOf(trial: Trying | null, unitOf: (key: string) => string): Act[] {
  if (trial === null) return []
  const planned = Object.entries(trial.values).map(([key, value]): Act => ({ do: 'plan', key, typed: String(Math.round(value * 1e4) / 1e4), unit: unitOf(key) || null }))
  return [...trial.parts.flatMap((p) => p.acts), ...planned]
}
