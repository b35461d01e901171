import { useSyncExternalStore } from 'react'
import type { System } from '../api/types'
import { newName } from '../entry/kept'
import type { ThemeName } from '../theme/theme'

/** Choices of this screen: they belong to the browser, not to the build. */
export interface Settings {
  readonly theme: ThemeName
  readonly system: System
  /** Whoever works here; the history carries it. */
  readonly who: string
  /** Commands on a bare key; with Alt they always act. */
  readonly bareKeys: boolean
  /** A tone where an entry is refused. */
  readonly sound: boolean
}

const KEY = 'pindo.settings'
const HAND = 'pindo.hand'
const listeners = new Set<() => void>()

function load(): Settings {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Settings>
    return { theme: kept.theme === 'night' ? 'night' : 'paper', system: kept.system === 'in' ? 'in' : 'mm', who: typeof kept.who === 'string' ? kept.who : '', bareKeys: kept.bareKeys === true, sound: kept.sound === true }
  } catch {
    return { theme: 'paper', system: 'mm', who: '', bareKeys: false, sound: false }
  }
}

let current = load()
const show = () => document.documentElement.setAttribute('data-theme', current.theme)
show()

export function setSettings(change: Partial<Settings>): void {
  current = { ...current, ...change }
  localStorage.setItem(KEY, JSON.stringify(current))
  show()
  listeners.forEach((tell) => tell())
}

export const settingsNow = (): Settings => current

export function useSettings(): Settings {
  return useSyncExternalStore(
    (tell) => {
      listeners.add(tell)
      return () => listeners.delete(tell)
    },
    () => current,
  )
}

let hand = ''

/** This page, until it is loaded anew: what was typed here is held against what other pages of the same browser changed. */
export const screenHere = newName()

/** This browser, for as long as it keeps anything: whose change is whose. */
export function handHere(): string {
  if (hand !== '') return hand
  try {
    hand = localStorage.getItem(HAND) ?? newName()
    localStorage.setItem(HAND, hand)
  } catch {
    hand = newName()
  }
  return hand
}
