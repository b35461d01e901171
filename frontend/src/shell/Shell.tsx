import { useCallback, useEffect, useState, type ReactNode } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { STATIONS, type Station } from '../api/types'
import { ProfileStrip } from '../profile/ProfileStrip'
import { Assemble } from '../stations/assemble/Assemble'
import { Clear } from '../stations/clear/Clear'
import { Line } from '../stations/line/Line'
import { Log } from '../stations/log/Log'
import { Mate } from '../stations/mate/Mate'
import { Seat } from '../stations/seat/Seat'
import { Stack } from '../stations/stack/Stack'
import { Survey } from '../stations/survey/Survey'
import { FindingsPanel } from '../findings/FindingsPanel'
import { BuildContextHome } from './buildContext'
import { EventDialog } from './EventDialog'
import { Finder } from './Finder'
import { HistoryDrawer } from './HistoryDrawer'
import { KeysDialog } from './KeysDialog'
import { OpenDrawer } from './OpenDrawer'
import { useSettings } from './settings'
import { StationRail } from './StationRail'
import { TopBar } from './TopBar'
import { TrialBar } from './TrialBar'
import { useBuildController } from './useBuildController'

export type Panel = '' | 'finder' | 'keys' | 'history' | 'event' | 'open'

const BOARDS: Record<Station, () => ReactNode> = { survey: Survey, mate: Mate, stack: Stack, seat: Seat, line: Line, clear: Clear, assemble: Assemble, log: Log }

/** Goes to the first ledger line that still has no value. */
function goToUnmeasured(): void {
  const field = document.querySelector<HTMLInputElement>('[data-unmeasured="true"] input')
  field?.scrollIntoView({ block: 'center' })
  field?.focus()
}

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))

/** The frame that every station lives in: rail, profile, board, findings. */
export function Shell() {
  const { id = '', station: wanted = '' } = useParams()
  const station = STATIONS.find((s) => s === wanted) ?? 'survey'
  const settings = useSettings()
  const navigate = useNavigate()
  const { context, trouble, setTrouble, reload, error } = useBuildController(id, settings.system, station)
  const [panel, setPanel] = useState<Panel>('')
  const [plan, setPlan] = useState(false)
  const close = useCallback(() => setPanel(''), [])
  const go = useCallback((to: Station) => void navigate(`/build/${id}/${to}`), [id, navigate])
  const print = useCallback(() => {
    window.open(`/api/builds/${id}/sheets/${station}.pdf`, '_blank')
  }, [id, station])

  useEffect(() => {
    document.title = context ? `${context.state.document.name} · ${station} · Pindo` : 'Pindo'
  }, [context, station])

  useEffect(() => {
    if (context === null) return undefined
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && context.trial !== null && !isTyping(event.target)) context.drop()
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey || panel !== '') return
      const to = STATIONS[Number(event.key) - 1]
      const commands: Record<string, () => void> = {
        '/': () => setPanel('finder'),
        '?': () => setPanel('keys'),
        h: () => setPanel('history'),
        l: () => setPanel('open'),
        v: () => setPlan((p) => !p),
        u: () => void context.step('undo'),
        r: () => void context.step('redo'),
        n: goToUnmeasured,
        t: () => document.querySelector<SVGElement>('[role="slider"]')?.focus(),
        k: () => void context.keep(),
        p: print,
      }
      const command = to === undefined ? commands[event.key] : () => go(to)
      if (command !== undefined) {
        event.preventDefault()
        command()
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [context, go, panel, print])

  if (context === null)
    return (
      <main className="waiting">
        {error ? (
          <>
            <h1>This build cannot be opened</h1>
            <p>{error.message}</p>
            <p>
              <Link to="/">All builds</Link>
            </p>
          </>
        ) : (
          <p role="status">Opening the build</p>
        )}
      </main>
    )
  const Station = BOARDS[station]
  return (
    <BuildContextHome.Provider value={context}>
      <div className="frame">
        <TopBar open={setPanel} print={print} />
        <StationRail station={station} go={go} />
        <ProfileStrip go={go} openEvent={() => setPanel('event')} openList={() => setPanel('open')} plan={plan} swap={() => setPlan(!plan)} />
        <main className="work" aria-label={`${station} station`}>
          {trouble !== null && (
            <div className="trouble" role="alert">
              <span>{trouble.text}</span>
              {trouble.stale ? (
                <button type="button" onClick={() => void reload()}>
                  Show the newer version
                </button>
              ) : (
                <button type="button" onClick={() => setTrouble(null)}>
                  Close
                </button>
              )}
            </div>
          )}
          <TrialBar />
          <Station key={station} />
        </main>
        <FindingsPanel station={station} go={go} />
      </div>
      {panel === 'finder' && <Finder close={close} go={go} open={setPanel} print={print} />}
      {panel === 'keys' && <KeysDialog close={close} />}
      {panel === 'history' && <HistoryDrawer close={close} />}
      {panel === 'event' && <EventDialog close={close} />}
      {panel === 'open' && <OpenDrawer close={close} />}
    </BuildContextHome.Provider>
  )
}
