import { useBuild } from '../shell/buildContext'

interface Props {
  value: string | null | undefined
  /** Where no label stands beside it. */
  label?: string
  put: (value: string) => void
}

/** Where a number comes from, on the ladder of evidence. */
export function SourceSelect({ value, label, put }: Props) {
  const { catalogue } = useBuild()
  return (
    <select aria-label={label} value={value ?? ''} onChange={(e) => put(e.target.value)}>
      {catalogue.sources.map((s) => (
        <option key={s}>{s}</option>
      ))}
    </select>
  )
}

/** The tool that it was taken with; empty for none said. */
export function ToolSelect({ value, label, put }: Props) {
  const { catalogue } = useBuild()
  return (
    <select aria-label={label} value={value ?? ''} onChange={(e) => put(e.target.value)}>
      <option value="">none said</option>
      {catalogue.tools.map((t) => (
        <option key={t}>{t}</option>
      ))}
    </select>
  )
}
