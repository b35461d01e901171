import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { STATIONS, type Station } from '../api/types'
import { ProfileStrip } from '../profile/ProfileStrip'
import { useQuery } from '@tanstack/react-query'
import { queries } from '../api/client'
import { QuestionPage } from '../question/QuestionPage'
import { askedOf, questionOf, QuestionTabs } from '../question/QuestionTabs'
import { FindingsPanel } from '../findings/FindingsPanel'
import { goHome, HOME, TOOL_KEYS } from '../entry/hands'
import { DeskHome } from '../entry/useDesk'
import { BuildContextHome, TrialHome } from './buildContext'
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
  const { id = '', station: wanted = '', question: path = '' } = useParams()
  const station = STATIONS.find((s) => s === wanted) ?? 'survey'
  const settings = useSettings()
  const navigate = useNavigate()
  // The catalogue does not change while Pindo runs: which questions a station has is known before the build is here.
  const questions = useQuery(queries.catalogue()).data?.questions
  const kept = useRef(new Map<Station, string>())
  const [asked, setAsked] = useState<readonly string[]>([])
  const own = useMemo(() => askedOf(questions ?? [], station, asked), [asked, questions, station])
  const question = own.find((q) => q.path === path) ?? own.find((q) => q.key === kept.current.get(station)) ?? own[0]
  const key = question?.key ?? ''
  useEffect(() => {
    if (key !== '') kept.current.set(station, key)
  }, [key, station])
  const { context, trial, desk, notice, setNotice, error, openAgain } = useBuildController(id, settings.system, key)
  const on = context?.assessment.asked
  useEffect(() => {
    if (on !== undefined) setAsked(on)
  }, [on])
  const [panel, setPanel] = useState<Panel>('')
  const [plan, setPlan] = useState(false)
  const close = useCallback(() => setPanel(''), [])
  const go = useCallback(
    (to: Station, wantedQuestion?: string) => {
      const found = questions?.find((q) => q.key === wantedQuestion)
      void navigate(`/build/${id}/${to}${found ? `/${found.path}` : ''}`)
    },
    [id, navigate, questions],
  )
  /** Goes to where an address is asked for. */
  const goTo = useCallback((to: Station, address: string) => go(to, questionOf(questions ?? [], to, address)?.key), [go, questions])
  const print = useCallback(() => {
    window.open(`/api/builds/${id}/sheets/${station}.pdf?units=${settingsNow().system}`, '_blank')
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
      goTo(to.station, to.address)
      context?.light(to.address)
      focusLine(to.station, to.address)
    },
    [context, goTo],
  )
  const looked = useRef(notice)
  useEffect(() => {
    // What was undone is looked at: its station comes up, once; hands that go elsewhere afterwards are let go.
    if (place && looked.current !== notice) goTo(place.station, place.address)
    looked.current = notice
  }, [goTo, notice, place])

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
      // The browser's own print would print the screen: the bench wants the sheet.
      if (panel === '' && (event.ctrlKey || event.metaKey) && event.code === 'KeyP') {
        event.preventDefault()
        print()
      }
      if (panel !== '' || event.ctrlKey || event.metaKey) return
      const typing = isTyping(event.target)
      if (event.key === 'Escape' && desk.now().trial !== null && !typing) context.drop()
      const tool = TOOL_KEYS[event.key]
      if (tool !== undefined && !event.altKey) {
        event.preventDefault()
        desk.pick(desk.now().tool === tool ? '' : tool)
      }
      const bare = settingsNow().bareKeys && !typing && !event.shiftKey
      if (event.repeat || !(event.altKey || bare)) return
      const to = /^Digit[1-8]$/.test(event.code) ? STATIONS[Number(event.code.slice(5)) - 1] : undefined
      const turn = (by: number) => () => {
        const next = own[(own.findIndex((q) => q.key === key) + by + own.length) % own.length]
        if (next) go(station, next.key)
      }
      const brackets: Record<string, () => void> = { BracketLeft: turn(-1), BracketRight: turn(1) }
      const command = to === undefined ? (commands[event.code] ?? brackets[event.code]) : () => go(to)
      if (command !== undefined) {
        event.preventDefault()
        command()
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [context, desk, go, key, own, panel, print, station])

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
  return (
    <DeskHome.Provider value={desk}>
    <BuildContextHome.Provider value={context}>
    <TrialHome.Provider value={trial}>
      <div className={`frame ${trial?.moving ? 'moving' : ''}`} id={HOME} tabIndex={-1}>
        <TopBar open={setPanel} print={print} />
        <StationRail station={station} go={go} />
        <ProfileStrip go={go} openEvent={() => setPanel('event')} openList={() => setPanel('open')} plan={plan} swap={() => setPlan(!plan)} />
        <main className="work" aria-label={`${station} station`}>
          {own.length > 1 && <QuestionTabs questions={own} chosen={key} choose={(q) => go(station, q.key)} />}
          {question ? <QuestionPage key={key} question={question} /> : <p className="empty">Nothing is asked here of a build like this one.</p>}
          <FootBar notice={notice} close={() => setNotice(null)} show={show} />
        </main>
        <FindingsPanel station={station} question={key} go={go} />
      </div>
      {panel === 'finder' && <Finder close={close} go={go} goTo={goTo} open={setPanel} print={print} />}
      {panel === 'keys' && <KeysDialog close={close} />}
      {panel === 'history' && <HistoryDrawer close={close} />}
      {panel === 'event' && <EventDialog close={close} />}
      {panel === 'open' && <OpenDrawer close={close} />}
    </TrialHome.Provider>
    </BuildContextHome.Provider>
    </DeskHome.Provider>
  )
}
