import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { queries } from '../api/client'
import type { BuildSummary, Drawing, Verdict } from '../api/types'
import { drawnAt } from '../board/em'
import { fit, path } from '../board/place'
import { VerdictGlyph } from '../findings/VerdictGlyph'
import { when } from '../shell/when'
import './builds.css'

const [WIDE, HIGH] = [190, 64]
const VERDICTS: readonly Verdict[] = ['fouls', 'tight', 'unmeasured', 'goes']

/** The build from the side, to scale. */
function SideView({ drawing }: { drawing: Drawing }) {
  const place = fit(drawing, WIDE, HIGH, 3)
  return (
    <svg {...drawnAt(WIDE, HIGH)} aria-hidden="true">
      {drawing.shapes.map((s, i) => (
        <path key={i} d={path(s.points, place, s.closed)} className={`shape ${s.style} ${s.known ? '' : 'assumed'}`} />
      ))}
      {drawing.rounds.map((r, i) => (
        <circle key={i} cx={place.x(r.x)} cy={place.y(r.y)} r={(r.d / 2) * place.scale} className={`round ${r.style} ${r.known ? '' : 'assumed'}`} />
      ))}
    </svg>
  )
}

interface Props {
  build: BuildSummary
  remove: () => void
}

/** A build in the list: from the side, what stands, what is open, what comes next, when it was last touched. */
export function BuildLine({ build, remove }: Props) {
  const [doomed, setDoomed] = useState(false)
  const seen = useQuery(queries.glance(build.id, build.tag)).data
  return (
    <li>
      <Link to={`/build/${build.id}/survey`} className="sideview" tabIndex={-1} aria-hidden="true">
        {seen?.side && <SideView drawing={seen.side} />}
      </Link>
      <div className="buildwhat">
        <Link to={`/build/${build.id}/survey`}>{build.name}</Link>
        {build.demo && <span className="condition">demo</span>}
        <span className="soft">{build.vehicle}</span>
        {seen && (
          <span className="buildstands">
            {VERDICTS.map((v) => (
              <span key={v}>
                <VerdictGlyph verdict={v} small /> <span className="mono">{seen.tally[v]}</span>
              </span>
            ))}
            <span>{seen.opens} open</span>
            {seen.next && (
              <span>
                <span className="soft">next:</span> {seen.next}
              </span>
            )}
          </span>
        )}
      </div>
      <span className="soft mono buildwhen">
        {when(build.updated_at)}
        <br />
        version {build.version}
      </span>
      <span className="buildacts">
        <Link to={`/build/${build.id}/capture`} aria-label={`Capture for ${build.name}: large buttons for phone and tablet`}>
          capture
        </Link>
        <a href={`/api/builds/${build.id}/bundle`} download title="Everything in one file: document, history, pictures" aria-label={`Export ${build.name} with its history and pictures`}>
          export
        </a>
        <a href={`/api/builds/${build.id}/build.json`} download title="The document alone, for other programs" aria-label={`Export the document of ${build.name}`}>
          document
        </a>
        <button type="button" className="quiet" onClick={() => setDoomed(true)}>
          delete<span className="visually-hidden"> {build.name}</span>
        </button>
      </span>
      {doomed && (
        <div className="trouble" role="alert">
          <span>Delete {build.name} with its history and pictures? It cannot be brought back: export it first.</span>
          <button
            type="button"
            onClick={() => {
              setDoomed(false)
              remove()
            }}
          >
            Delete it
          </button>
          <button type="button" onClick={() => setDoomed(false)}>
            Leave it
          </button>
        </div>
      )}
    </li>
  )
}
