import { memo } from 'react'
import { STATIONS, type Station } from '../api/types'
import { VerdictGlyph } from '../findings/VerdictGlyph'
import { useBuild } from './buildContext'
import './shell.css'

export const stationName = (s: Station) => s.charAt(0).toUpperCase() + s.slice(1)

/** The stations in the order of the trade, each with its tally of verdicts. */
export const StationRail = memo(function StationRail({ station, go }: { station: Station; go: (to: Station) => void }) {
  const { assessment } = useBuild()
  return (
    <nav className="rail" aria-label="Stations">
      {STATIONS.map((s, i) => {
        const tally = assessment.tallies[s]
        return (
          <button key={s} type="button" className={s === station ? 'here' : ''} aria-current={s === station ? 'page' : undefined} onClick={() => go(s)}>
            <span className="railname">
              {stationName(s)} <kbd>{i + 1}</kbd>
            </span>
            <span className="railtally">
              {(['fouls', 'tight', 'unmeasured', 'goes'] as const).map(
                (v) =>
                  tally?.[v] ? (
                    <span key={v}>
                      <VerdictGlyph verdict={v} small /> <span className="mono">{tally[v]}</span>
                    </span>
                  ) : null,
              )}
            </span>
          </button>
        )
      })}
    </nav>
  )
})
