import { useCallback, useEffect, useRef, useState, type ReactNode } from 'react'
import { useNavigate, useParams } from 'react-router'
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
import { goHome, HOME, TOOL_KEYS } from '../entry/hands'
import { DeskHome } from '../entry/useDesk'
import { BuildContextHome } from './buildContext'
import { EventDialog } from './EventDialog'
import { Finder, focusLine } from './Finder'
import { FootBar } from './FootBar'
import { HistoryDrawer } from './HistoryDrawer'
import { KeysDialog } from './KeysDialog'
import { OpenDrawer } from './OpenDrawer'
import { settingsNow, useSettings } from './settings'
import { StationRail } from './StationRail'
import { TopBar } from './TopBar'
import { Unopened } from './Unopened'
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
  const { context, desk, notice, setNotice, error, openAgain } = useBuildController(id, settings.system, station)
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

  const opening = context === null
  // Keys that nobody meant for a field go nowhere: when the focus is lost it goes home.
  useEffect(() => {
    const lost = () => window.setTimeout(() => document.activeElement === document.body && goHome())
    lost()
    window.addEventListener('focusout', lost)
    return () => window.removeEventListener('focusout', lost)
  }, [opening])

  const place = notice?.place
  const show = useCallback(
    (to: { station: Station; address: string }) => {
      go(to.station)
      context?.light(to.address)
      focusLine(to.station, to.address)
    },
    [context, go],
  )
  const looked = useRef(notice)
  useEffect(() => {
    // What was undone is looked at: its station comes up, once; hands that go elsewhere afterwards are let go.
    if (place && looked.current !== notice) go(place.station)
    looked.current = notice
  }, [go, notice, place])

  useEffect(() => {
    if (context === null) return undefined
    const commands: Record<string, () => void> = {
      KeyF: () => setPanel('finder'),
      Slash: () => setPanel('finder'),
      Digit0: () => setPanel('keys'),
      KeyH: () => setPanel('history'),
      KeyL: () => setPanel('open'),
      KeyV: () => setPlan((p) => !p),
      KeyU: () => void context.step('undo'),
      KeyR: () => void context.step('redo'),
      KeyN: goToUnmeasured,
      KeyT: () => document.querySelector<SVGElement>('[role="slider"]')?.focus(),
      KeyK: () => void context.keep(),
      KeyP: print,
    }
    const onKey = (event: KeyboardEvent) => {
      if (panel !== '' || event.ctrlKey || event.metaKey) return
      const typing = isTyping(event.target)
      if (event.key === 'Escape' && context.trial !== null && !typing) context.drop()
      const tool = TOOL_KEYS[event.key]
      if (tool !== undefined && !event.altKey) {
        event.preventDefault()
        desk.pick(desk.now().tool === tool ? '' : tool)
      }
      const bare = settingsNow().bareKeys && !typing && !event.shiftKey
      if (event.repeat || !(event.altKey || bare)) return
      const to = /^Digit[1-8]$/.test(event.code) ? STATIONS[Number(event.code.slice(5)) - 1] : undefined
      const command = to === undefined ? commands[event.code] : () => go(to)
      if (command !== undefined) {
        event.preventDefault()
        command()
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [context, desk, go, panel, print])

  if (context === null)
    return (
      <main className="waiting">
        {error ? (
          <Unopened id={id} error={error} again={openAgain} />
        ) : (
          <p role="status">Opening the build</p>
        )}
      </main>
    )
  const Station = BOARDS[station]
  return (
    <DeskHome.Provider value={desk}>
    <BuildContextHome.Provider value={context}>
      <div className="frame" id={HOME} tabIndex={-1}>
        <TopBar open={setPanel} print={print} />
        <StationRail station={station} go={go} />
        <ProfileStrip go={go} openEvent={() => setPanel('event')} openList={() => setPanel('open')} plan={plan} swap={() => setPlan(!plan)} />
        <main className="work" aria-label={`${station} station`}>
          <Station key={station} />
          <FootBar notice={notice} close={() => setNotice(null)} show={show} />
        </main>
        <FindingsPanel station={station} go={go} />
      </div>
      {panel === 'finder' && <Finder close={close} go={go} open={setPanel} print={print} />}
      {panel === 'keys' && <KeysDialog close={close} />}
      {panel === 'history' && <HistoryDrawer close={close} />}
      {panel === 'event' && <EventDialog close={close} />}
      {panel === 'open' && <OpenDrawer close={close} />}
    </BuildContextHome.Provider>
    </DeskHome.Provider>
  )
}
