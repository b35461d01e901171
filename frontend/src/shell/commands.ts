import { useEffect } from 'react'
import { STATIONS, type QuestionRow, type Station } from '../api/types'
import type { Desk } from '../entry/desk'
import { TOOL_KEYS } from '../entry/hands'
import type { BuildContext } from './buildContext'
import { endRun, lookedNow, openPanel, startRun } from './looked'
import { settingsNow } from './settings'

/** Goes to the first ledger line that still has no value. */
function goToUnmeasured(): void {
  const field = document.querySelector<HTMLInputElement>('[data-unmeasured="true"] input')
  field?.scrollIntoView({ block: 'center' })
  field?.focus()
}

const isTyping = (target: EventTarget | null) => target instanceof HTMLElement && (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))

interface Here {
  readonly context: BuildContext | null
  readonly desk: Desk
  readonly station: Station
  /** Questions of the station that are asked, and the one that is looked at. */
  readonly own: readonly QuestionRow[]
  readonly question: string
  readonly go: (to: Station, question?: string) => void
  readonly print: () => void
  readonly swap: () => void
}

/** Commands by keys: with Alt always, bare only where the user switched them on. */
export function useCommands({ context, desk, station, own, question, go, print, swap }: Here): void {
  useEffect(() => {
    if (context === null) return undefined
    const turn = (by: number) => () => {
      const next = own[(own.findIndex((q) => q.key === question) + by + own.length) % own.length]
      if (next) go(station, next.key)
    }
    const commands: Record<string, () => void> = {
      KeyF: () => openPanel('finder'),
      Slash: () => openPanel('finder'),
      Digit0: () => openPanel('keys'),
      KeyH: () => openPanel('history'),
      KeyL: () => openPanel('open'),
      KeyV: swap,
      KeyU: () => void context.step('undo'),
      KeyR: () => void context.step('redo'),
      KeyN: goToUnmeasured,
      KeyM: () => (lookedNow().running ? endRun() : startRun()),
      KeyT: () => document.querySelector<SVGElement>('[role="slider"]')?.focus(),
      KeyK: () => void context.keep(),
      KeyP: print,
      KeyG: () => openPanel('gauges'),
      BracketLeft: turn(-1),
      BracketRight: turn(1),
    }
    const onKey = (event: KeyboardEvent) => {
      const free = ['', 'gauges', 'guide'].includes(lookedNow().panel)
      // The browser's own print would print the screen: the bench wants the sheet.
      if (free && (event.ctrlKey || event.metaKey) && event.code === 'KeyP') {
        event.preventDefault()
        print()
      }
      if (!free || event.ctrlKey || event.metaKey) return
      const typing = isTyping(event.target)
      if (event.key === 'Escape' && desk.now().trial !== null && !typing) context.drop()
      const tool = TOOL_KEYS[event.key]
      if (tool !== undefined && !event.altKey) {
        event.preventDefault()
        desk.pick(desk.now().tool === tool ? '' : tool)
      }
      const bare = settingsNow().bareKeys && !typing && !event.shiftKey
      if (event.repeat || !(event.altKey || bare)) return
      const to = /^Digit[1-8]$/.test(event.code) ? STATIONS[Number(event.code.slice(5)) - 1] : undefined
      const command = to === undefined ? commands[event.code] : () => go(to)
      if (command !== undefined) {
        event.preventDefault()
        command()
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [context, desk, go, own, print, question, station, swap])
}
