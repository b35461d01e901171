import { useState } from 'react'
import type { Build } from '../../api/types'
import { useBuild } from '../../shell/buildContext'

const WORDS = [
  ['name', 'Name of the build'],
  ['vehicle', 'Vehicle'],
  ['engine', 'Engine'],
  ['gearbox', 'Gearbox'],
  ['notes', 'Notes'],
] as const
const LAYOUTS: readonly (readonly [Build['layout'], string])[] = [
  ['lengthwise', 'lengthwise, accessory end to the vehicle front'],
  ['reversed', 'reversed, accessory end to the vehicle rear'],
  ['crosswise left', 'crosswise, accessory end to the vehicle left'],
  ['crosswise right', 'crosswise, accessory end to the vehicle right'],
]

/** What is being built, and which way round the unit stands: every frame hangs on it. */
export function AboutBuild() {
  const { state, change } = useBuild()
  const [open, setOpen] = useState(false)
  const doc = state.document
  const put = (field: string, value: string, words: string) => change([{ op: 'replace', path: `/${field}`, value }], words)
  return (
    <section aria-label="About the build">
      <div className="panelhead">
        <h2>About the build</h2>
        <span className="soft">{[doc.vehicle, doc.engine, doc.gearbox, doc.layout].filter(Boolean).join(' · ')}</span>
        <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'close' : 'change'}
        </button>
      </div>
      {open && (
        <div className="options about">
          {WORDS.map(([field, words]) => (
            <label key={field} className="field">
              {words}
              <input key={doc[field]} defaultValue={doc[field]} maxLength={field === 'name' ? 200 : 2000} onBlur={(e) => e.target.value !== doc[field] && void put(field, e.target.value, words)} onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()} />
            </label>
          ))}
          <label className="field">
            The engine stands
            <select value={doc.layout} onChange={(e) => void put('layout', e.target.value, 'Layout')}>
              {LAYOUTS.map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
    </section>
  )
}
