import type { Act } from '../api/types'
import { ChoiceField } from '../entry/ChoiceField'
import { useBuild } from '../shell/buildContext'

interface Props {
  id: string
  value: string | null | undefined
  words: string
  /** A label stands beside it. */
  labelled?: boolean
  acts: (value: string) => Act[]
}

/** What a figure that no gauge reads cannot be; the core holds it too. */
export const NOT_OF_PAPER: readonly string[] = ['measured', 'measured elsewhere', 'chosen']

/** Where a number comes from, on the ladder of evidence; what no gauge reads cannot be measured. */
export function SourceSelect({ value, sourced = false, ...rest }: Props & { sourced?: boolean }) {
  const { catalogue } = useBuild()
  const choices = catalogue.sources.filter((s) => !sourced || !NOT_OF_PAPER.includes(s) || s === value)
  return <ChoiceField {...rest} shown={value ?? 'not said'} choices={choices} />
}

/** The tool that it was taken with; empty for none said. */
export function ToolSelect({ value, kind = 'length', ...rest }: Props & { kind?: string }) {
  const { catalogue } = useBuild()
  const fit = catalogue.tools_of_kind[kind] ?? catalogue.tools
  return <ChoiceField {...rest} shown={value ?? ''} choices={[['', 'not said'], ...catalogue.tools.filter((t) => fit.includes(t) || t === value)]} />
}
