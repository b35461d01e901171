import { screenHere } from '../shell/settings'
import type { Desk } from '../entry/desk'
import { typeHere } from './typed'

interface Reading {
  readonly gauge: string
  readonly text: string
  readonly label: string
}

let source: EventSource | null = null
let told: (() => void)[] = []

/** Readings of gauges on a line come to this screen from now on: where the hands are, or into the tray. */
export function hearLines(desk: Desk): void {
  source?.close()
  source = new EventSource(`/api/gauges/live?${new URLSearchParams({ screen: screenHere })}`)
  source.onmessage = (event: MessageEvent<string>) => {
    const reading = JSON.parse(event.data) as Reading
    typeHere(desk, reading.text, `${reading.label ? `${reading.label}, ` : ''}from the gauge at ${reading.gauge}, while no field was in hand`)
    told.forEach((tell) => tell())
  }
}

export function deafToLines(): void {
  source?.close()
  source = null
}

/** Tells of every reading that comes, until it is let go. */
export function onReading(tell: () => void): () => void {
  told = [...told, tell]
  return () => {
    told = told.filter((t) => t !== tell)
  }
}
