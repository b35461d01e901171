import { useBuild } from './buildContext'
import type { Notice } from './notice'
import { useVisit } from './visit'
import './shell.css'

interface Props {
  notice: Notice | null
  close: () => void
}

/** What was undone, what went wrong, what another screen did: over the foot of the bench, so that nothing above it moves. */
export function FootBar({ notice, close }: Props) {
  const { step } = useBuild()
  const visit = useVisit()
  if (notice === null) return null
  const place = notice?.place
  const bad = notice?.kind === 'trouble' || notice?.kind === 'data' || notice?.kind === 'trial'
  const theirs = notice?.theirs
  return (
    <div className="footbar">
        <div className={bad ? 'trouble' : 'stepped'} role={bad ? 'alert' : 'status'}>
          <span>{notice.text}</span>
          {place && (
            <button type="button" onClick={() => visit(place.address, place.station)}>
              Show it
            </button>
          )}
          {notice.back && (
            <button type="button" onClick={() => void step(notice.back ?? 'redo')}>
              Take that back
            </button>
          )}
          {theirs && (
            <button type="button" onClick={() => void step(theirs.kind, theirs.version)}>
              {theirs.kind === 'undo' ? 'Undo it all the same' : 'Do it again all the same'}
            </button>
          )}
          <button type="button" onClick={close}>
            Close
          </button>
        </div>
    </div>
  )
}
