import { useSyncExternalStore } from 'react'

/** A panel over the station: finder, keys, history, something happened, what is open, ways out. */
export type Panel = '' | 'finder' | 'keys' | 'history' | 'event' | 'open' | 'ways' | 'table' | 'gauges' | 'guide' | 'photos'

/** What is looked at on this screen: it belongs to no build, and a change of it draws only what asks for it. */
interface Looked {
  /** Address that the pointer or the hands are on. */
  readonly lit: string
  /** Finding that is opened. */
  readonly finding: string
  /** Address that somebody was led to: the list that holds it opens. */
  readonly visited: string
  readonly panel: Panel
  /** Whether a run of readings is under way. */
  readonly running: boolean
}

const AWAY: Looked = { lit: '', finding: '', visited: '', panel: '', running: false }
let now = AWAY
const listeners = new Set<() => void>()
const listen = (tell: () => void) => {
  listeners.add(tell)
  return () => listeners.delete(tell)
}

function set(change: Partial<Looked>): void {
  now = { ...now, ...change }
  listeners.forEach((tell) => tell())
}

/** One answer about what is looked at; a component is drawn again only when its answer changes. */
export const useLooked = <T extends string | boolean>(answer: (looked: Looked) => T): T => useSyncExternalStore(listen, () => answer(now))
export const lookedNow = (): Looked => now

export const light = (address: string): void => set({ lit: address })
export const openFinding = (id: string): void => set({ finding: id })
export const visited = (address: string): void => set({ visited: address, lit: address })
export const openPanel = (panel: Panel): void => set({ panel })
export const closePanel = (): void => set({ panel: '' })
export const startRun = (): void => set({ running: true })
export const endRun = (): void => set({ running: false, lit: '' })
/** Another build is opened: nothing of this one is looked at. */
export const lookAway = (): void => set(AWAY)

export const useLit = (address: string): boolean => useLooked((l) => l.lit === address)
