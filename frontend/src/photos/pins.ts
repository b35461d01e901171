import type { Build, Catalogue } from '../api/types'
import { rowsOf } from '../rows/rows'

export interface Pin {
  readonly address: string
  readonly name: string
}

/** What a photo may be pinned to, in groups: sizes that are asked for, holes, rows of every list. */
export function pinsOf(catalogue: Catalogue, build: Build, asked: readonly string[]): readonly (readonly [string, readonly Pin[]])[] {
  const sizes = catalogue.dimensions.filter((d) => asked.includes(d.key)).map((d) => ({ address: d.key, name: d.name }))
  const holes = (side: 'engine' | 'gearbox') => build[`${side}_face`].holes.map((h) => ({ address: `${side}.${h.n}`, name: `${side === 'engine' ? 'E' : 'G'}${h.n} ${h.name}`.trim() }))
  const lists = catalogue.lists.map((l): [string, Pin[]] => [l.title, rowsOf(build, l.key).map((r) => ({ address: `${l.key}.${r.n}`, name: `${l.one} ${r.n} ${r.name}`.trim() }))])
  const own: [string, Pin[]][] = [['Holes of the castings', [...holes('engine'), ...holes('gearbox')]], ...lists, ['Sizes', sizes]]
  return own.filter(([, pins]) => pins.length > 0)
}

/** What an address is called; the address itself where nothing has it any more. */
export function pinName(catalogue: Catalogue, build: Build, address: string): string {
  const size = catalogue.dimensions.find((d) => d.key === address)
  return size?.name ?? pinsOf(catalogue, build, []).flatMap(([, pins]) => pins).find((p) => p.address === address)?.name ?? address
}
