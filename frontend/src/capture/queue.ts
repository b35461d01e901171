import { createStore, del, entries, set } from 'idb-keyval'
import { api } from '../api/client'
import { newName } from '../entry/kept'
import { answered } from '../shell/notice'

/** A photo or voice note that the server does not have yet: kept in the browser, over reloads and dead batteries. */
export interface Caught {
  /** Its key too: it is entered once, however often it is sent. */
  readonly id: string
  readonly build: string
  readonly kind: 'photo' | 'sound'
  readonly at: string
  readonly who: string
  readonly about: string
  /** Address that it is pinned to; empty for none. */
  readonly pin: string
  readonly content: Blob
  /** Why the server does not take it; it stays until somebody says. */
  readonly wrong: string
}

const AGAIN_MS = 4000
let store: ReturnType<typeof createStore> | null = null
const place = () => (store ??= createStore('pindo-caught', 'caught'))
let told: (() => void)[] = []
let sending = false
let asked = false
let later = 0

/** Tells whenever what waits changes. */
export function onCaught(tell: () => void): () => void {
  told = [...told, tell]
  return () => {
    told = told.filter((t) => t !== tell)
  }
}

const tellAll = () => told.forEach((tell) => tell())

/** Everything that waits, in the order in which it was caught. */
export async function waiting(): Promise<Caught[]> {
  const all = (await entries<string, Caught>(place())).map(([, caught]) => caught)
  return all.sort((a, b) => a.at.localeCompare(b.at))
}

/** Keeps what was caught, then sends it. */
export async function keepCaught(caught: Omit<Caught, 'id' | 'wrong'>): Promise<void> {
  const id = newName()
  await set(id, { ...caught, id, wrong: '' }, place())
  tellAll()
  void sendCaught()
}

/** Lets go of one that nobody wants. */
export async function dropCaught(id: string): Promise<void> {
  await del(id, place())
  tellAll()
}

async function send(one: Caught): Promise<void> {
  const file = new File([one.content], one.kind, { type: one.content.type.split(';')[0] ?? '' })
  const kept = one.kind === 'photo' ? await api.keepPhoto(one.build, file) : await api.keepSound(one.build, file)
  const named = one.kind === 'photo' ? { photos: [kept] } : { sounds: [kept] }
  const row = { name: one.kind === 'photo' ? `Photo${one.about ? `: ${one.about}` : ''}` : `Voice note${one.about ? `: ${one.about}` : ''}`, at: one.at, who: one.who, about: one.about, pin: one.pin, ...named }
  await api.enter(one.build, [{ do: 'add', list: 'log', row: row as never }], 'captured', one.id, false, '', { shown: '', question: '' })
}

/** Sends what waits, one after the other; what gets no answer waits on, what is refused stays with its reason. */
export async function sendCaught(): Promise<void> {
  if (sending) {
    asked = true
    return
  }
  sending = true
  asked = false
  window.clearTimeout(later)
  try {
    for (const one of await waiting()) {
      if (one.wrong !== '') continue
      try {
        await send(one)
        await del(one.id, place())
      } catch (error) {
        if (!answered(error)) {
          later = window.setTimeout(() => void sendCaught(), AGAIN_MS)
          break
        }
        await set(one.id, { ...one, wrong: error.message }, place())
      }
      tellAll()
    }
  } finally {
    sending = false
  }
  // What was caught meanwhile was not among those that were gone through.
  if (asked) void sendCaught()
}

window.addEventListener('online', () => void sendCaught())
