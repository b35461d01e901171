import { useState } from 'react'
import type { Build } from '../../api/types'
import { putAt } from '../../entry/acts'
import { ChoiceField } from '../../entry/ChoiceField'
import { WordsField } from '../../entry/WordsField'
import { useBuild } from '../../shell/buildContext'

const WORDS = [
  ['name', 'Name of the build'],
  ['vehicle', 'Vehicle'],
  ['engine', 'Engine'],
  ['gearbox', 'Gearbox'],
  ['notes', 'Notes'],
] as const
const LAYOUTS: readonly (readonly [Build['layout'], string])[] = [
  ['', 'not known yet'],
  ['lengthwise', 'lengthwise, accessory end to the vehicle front'],
  ['reversed', 'reversed, accessory end to the vehicle rear'],
  ['crosswise left', 'crosswise, accessory end to the vehicle left'],
  ['crosswise right', 'crosswise, accessory end to the vehicle right'],
  ['swing arm', 'swings with its wheel'],
]
/** Sides and ends that may have a name of the user's own beside theirs. */
const SIDES = ['accessory end', 'flywheel end', 'engine left', 'engine right', 'engine top', 'sump side', 'vehicle front', 'vehicle rear', 'vehicle left', 'vehicle right'] as const

/** What is being built, and which way round the unit stands: every frame hangs on it. */
export function AboutBuild() {
  const { state } = useBuild()
  const [open, setOpen] = useState(false)
  const doc = state.document
  return (
    <section aria-label="About the build">
      <div className="panelhead">
        <h2>About the build</h2>
        <span className="soft">{[doc.vehicle, doc.engine, doc.gearbox, doc.layout || 'layout not known yet'].filter(Boolean).join(' · ')}</span>
        <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'close' : 'change'}
        </button>
      </div>
      {open && (
        <div className="options about">
          {WORDS.map(([field, words]) => (
            <label key={field} className="field">
              {words}
              <WordsField id={`about-${field}`} words={words} labelled shown={doc[field]} maxLength={field === 'name' ? 200 : 2000} acts={(text) => [putAt(`/${field}`, text)]} />
            </label>
          ))}
          <label className="field">
            The engine stands
            <ChoiceField id="about-layout" words="Layout" labelled shown={doc.layout} choices={LAYOUTS} acts={(value) => [putAt('/layout', value)]} />
          </label>
          {SIDES.map((side, i) => {
            const key = side.replace(' ', '_')
            return (
              <label key={key} className="field">
                You call {i + 1}, the {side}
                <WordsField id={`side-${key}`} words={`Your name of the ${side}`} labelled shown={doc.nicknames[key] ?? ''} maxLength={40} acts={(text) => [putAt(`/nicknames/${key}`, text)]} />
              </label>
            )
          })}
        </div>
      )}
    </section>
  )
}
