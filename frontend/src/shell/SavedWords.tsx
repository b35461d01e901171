import { focusOn } from '../entry/hands'
import { useDesk, useDeskPart } from '../entry/useDesk'
import { when } from './when'
import './shell.css'

const clock = (ms: number) => when(new Date(ms).toISOString()).slice(-5)

/** Whether all that was typed is stored; a click goes to the first that was refused, or typed and not entered. */
export function SavedWords({ at, saving }: { at: string; saving: boolean }) {
  const desk = useDesk()
  const waiting = useDeskPart(desk, (s) => s.waiting).length
  const since = useDeskPart(desk, (s) => s.since)
  const refused = useDeskPart(desk, (s) => s.refused)
  const half = useDeskPart(desk, (s) => Object.keys(s.drafts).length)
  const [first] = refused
  const open = waiting + refused.length + half > 0
  return (
    <span className={`saved ${open ? 'tight' : 'soft'}`} role="status">
      {waiting > 0 && (since === null ? `${waiting} not stored yet` : `${waiting} not stored since ${clock(since)}`)}
      {first && (
        <button type="button" className="quiet fouls" title={`${first.words}: “${first.text}”. ${first.wrong}`} onClick={() => focusOn(first.field)}>
          {refused.length} refused
        </button>
      )}
      {half > 0 && (
        <button type="button" className="quiet" title="Typed, and neither entered nor left: it is kept in this browser" onClick={() => focusOn(Object.keys(desk.now().drafts)[0] ?? '')}>
          {half} not entered
        </button>
      )}
      {!open && (saving ? 'saving' : `saved ${when(at).slice(-5)}`)}
    </span>
  )
}
