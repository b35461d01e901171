import { createContext, useContext, useSyncExternalStore } from 'react'
import type { Desk, DeskState, Held } from './desk'

export const DeskHome = createContext<Desk | null>(null)

export function useDesk(): Desk {
  const found = useContext(DeskHome)
  if (found === null) throw new Error('useDesk needs DeskHome above it.')
  return found
}

/** A part of the desk's state; drawn again only when that part changes. */
export function useDeskPart<T>(desk: Desk, select: (state: DeskState) => T): T {
  return useSyncExternalStore(desk.subscribe, () => select(desk.now()))
}

/** What is held for one field; drawn again only when that changes. */
export function useHeld(field: string): Held | undefined {
  const desk = useDesk()
  return useSyncExternalStore(desk.subscribe, () => desk.held(field))
}
