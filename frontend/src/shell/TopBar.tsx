import Button from '@mui/material/Button'
import { memo } from 'react'
import { Link } from 'react-router'
import { useBuild } from './buildContext'
import { openPanel } from './looked'
import { SavedWords } from './SavedWords'
import { setSettings, useSettings } from './settings'
import './shell.css'

/** The mark: two blocks, a hair apart. */
export function Brand() {
  return (
    <>
      <svg width="1.625rem" height="1.25rem" viewBox="0 0 26 20" aria-hidden="true">
        <rect x="1" y="2" width="9" height="16" fill="currentColor" />
        <rect x="15" y="3" width="8" height="14" fill="none" stroke="currentColor" strokeWidth="2" />
      </svg>
      <b>pindo</b>
    </>
  )
}

/** Name of the build, its tally in words, units, undo, finder, print. */
export const TopBar = memo(function TopBar({ print }: { print: () => void }) {
  const { state, assessment, step, saving } = useBuild()
  const { system, theme } = useSettings()
  const count = (verdict: string) => assessment.findings.filter((f) => f.verdict === verdict).length
  return (
    <header className="topbar">
      <Link to="/" className="brand" aria-label="pindo, all builds">
        <Brand />
      </Link>
      <span className="buildname">{state.document.name}</span>
      <span className="tallywords soft">
        {count('goes')} go, {count('tight')} tight, {count('fouls')} foul, {count('unmeasured')} unmeasured
      </span>
      <span className="spring" />
      <div className="switch" role="group" aria-label="Units">
        {(['mm', 'in'] as const).map((s) => (
          <button key={s} type="button" aria-pressed={system === s} onClick={() => setSettings({ system: s })}>
            {s}
          </button>
        ))}
      </div>
      <Button variant="text" disabled={!state.can_undo} onClick={() => void step('undo')}>
        Undo
      </Button>
      <Button variant="text" disabled={!state.can_redo} onClick={() => void step('redo')}>
        Redo
      </Button>
      <Button variant="text" onClick={() => openPanel('history')}>
        History
      </Button>
      <Button variant="text" onClick={() => openPanel('finder')}>
        Find <kbd>Alt F</kbd>
      </Button>
      <Button variant="text" onClick={print}>
        Print
      </Button>
      <Button variant="text" onClick={() => setSettings({ theme: theme === 'paper' ? 'night' : 'paper' })}>
        {theme === 'paper' ? 'Night' : 'Day'}
      </Button>
      <Button variant="text" onClick={() => openPanel('keys')} aria-label="Keys">
        ?
      </Button>
      <SavedWords at={state.updated_at} saving={saving} />
    </header>
  )
})
