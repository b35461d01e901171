import KINDS from '../../generated/kinds.json'
import type { System } from './types'

interface Kind {
  readonly unit: string
  readonly imperial: string
  /** Base units in one inch-system unit. */
  readonly factor: number
  readonly decimals: number
}

const kindOf = (kind: string): Kind | undefined => (KINDS as Record<string, Kind>)[kind]
// Temperature has no plain factor; it is shown in its base unit.
const imperial = (kind: string, system: System): boolean => system === 'in' && kind !== 'temperature' && (kindOf(kind)?.imperial ?? '') !== ''

/** Unit that a field of this kind shows. */
export function unitOf(kind: string, system: System): string {
  const k = kindOf(kind)
  return (imperial(kind, system) ? k?.imperial : k?.unit) ?? ''
}

/** A number in the unit that the screen shows. */
export function inShown(value: number, kind: string, system: System): number {
  return imperial(kind, system) ? value / (kindOf(kind)?.factor ?? 1) : value
}

/** A figure for the screen: digits follow its ±, and inches get two more. */
export function figure(value: number, kind: string, system: System, pm = 0): string {
  const k = kindOf(kind)
  const other = imperial(kind, system)
  const shown = inShown(value, kind, system)
  const decimals = kind === 'length' && pm >= 0.15 ? 1 : (k?.decimals ?? 2)
  const text = shown.toFixed(decimals + (other && unitOf(kind, system) === 'in' ? 2 : 0))
  return text.startsWith('-') && Number(text) !== 0 ? `−${text.slice(1)}` : text.replace(/^-/, '')
}

/** The same with its unit. */
export function written(value: number, kind: string, system: System, pm = 0): string {
  return `${figure(value, kind, system, pm)} ${unitOf(kind, system)}`.trim()
}

/** A figure as it is typed back into a field, in its base unit. */
export function typedFigure(value: number): string {
  return String(Math.round(value * 1e4) / 1e4)
}
