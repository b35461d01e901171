import type { Build } from '../api/types'

export interface Evidence {
  readonly source: string
  readonly tool: string | null
  readonly pm: string | null
  readonly who?: string
  readonly lapsed: { readonly event: string } | null
}
export interface AnyRow {
  readonly n: number
  readonly name: string
  readonly evidence?: Evidence
  readonly said?: Readonly<Record<string, Evidence>>
  readonly others?: readonly { readonly field: string; readonly typed: string; readonly evidence: Evidence; readonly settled: string }[]
  readonly [field: string]: unknown
}

/** The rows of a list of the build, whatever they are. */
export function rowsOf(build: Build, key: string): readonly AnyRow[] {
  return (build as unknown as Record<string, readonly AnyRow[]>)[key] ?? []
}

