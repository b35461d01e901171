import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { useParams } from 'react-router'
import { queries } from '../api/client'
import { STATIONS, type Station } from '../api/types'
import { goHome, HOME } from '../entry/hands'
import { DeskHome, useDeskPart } from '../entry/useDesk'
import { FindingsPanel } from '../findings/FindingsPanel'
import { ProfileStrip } from '../profile/ProfileStrip'
import { QuestionPage } from '../question/QuestionPage'
import { askedOf, QuestionTabs } from '../question/QuestionTabs'
import { BuildContextHome, TrialHome } from './buildContext'
import { useCommands } from './commands'
import { fetchRest } from './fetchRest'
import { Finder } from './Finder'
import { FootBar } from './FootBar'
import { closePanel, lookAway, lookedNow, useLooked } from './looked'
import { Resting } from './Resting'
import { settingsNow, useSettings } from './settings'
import { StationRail } from './StationRail'
import { TopBar } from './TopBar'
import { Unopened } from './Unopened'
import { useBuildController } from './useBuildController'
import { useGo, useVisit } from './visit'
import './shell.css'

// What opens over a station is not needed for its first picture: it is fetched right after it. The finder is typed into at once, so it is here.
const Panels = lazy(() => import('./Panels'))
const Tray = lazy(() => import('../tray/Tray'))
const Run = lazy(() => import('../run/Run'))

/** The question of a station that is looked at: as the address says, else the last one, else the first. */
function useQuestion(station: Station, path: string) {
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
  return { own, question, key, setAsked }
}

/** Keys that nobody meant for a field go nowhere: when the focus is lost it goes home. */
function useHome(opening: boolean): void {
  useEffect(() => {
    const lost = () => window.setTimeout(() => document.activeElement === document.body && goHome())
    lost()
    window.addEventListener('focusout', lost)
    return () => window.removeEventListener('focusout', lost)
  }, [opening])
}

/** The frame that every station lives in: rail, profile, board, findings. */
export function Shell() {
  const { id = '', station: wanted = '', question: path = '' } = useParams()
  const station = STATIONS.find((s) => s === wanted) ?? 'survey'
  const settings = useSettings()
  const { own, question, key, setAsked } = useQuestion(station, path)
  const { context, trial, desk, notice, setNotice, error, openAgain } = useBuildController(id, settings.system, key)
  const asked = context?.assessment.asked
  useEffect(() => {
    if (asked !== undefined) setAsked(asked)
  }, [asked, setAsked])
  useEffect(() => lookAway, [id])
  const loose = useDeskPart(desk, (s) => s.tray.length > 0)
  useEffect(() => {
    // Gauges are listened to as soon as the first picture stands.
    const ear = import('../tray/gauge').then((m) => m.listen(desk))
    return () => void ear.then((deaf) => deaf())
  }, [desk])
  useEffect(() => {
    const caught = import('../photos/dropped').then((m) => m.catchPhotos(() => lookedNow().lit))
    return () => void caught.then((stop) => stop())
  }, [])
  const panel = useLooked((l) => l.panel)
  const running = useLooked((l) => l.running)
  useEffect(fetchRest, [])
  const [plan, setPlan] = useState(false)
  const swap = useCallback(() => setPlan((p) => !p), [])
  const go = useGo()
  const visit = useVisit()
  const print = useCallback(() => {
    window.open(`/api/builds/${id}/sheets/${station}.pdf?units=${settingsNow().system}`, '_blank')
  }, [id, station])
  useEffect(() => {
    document.title = context ? `${context.state.document.name} · ${station} · Pindo` : 'Pindo'
  }, [context, station])
  useHome(context === null)
  useCommands({ context, desk, station, own, question: key, go, print, swap })
  const place = notice?.place
  const stepped = useRef(notice)
  useEffect(() => {
    // What was undone is looked at: its station comes up, once; hands that go elsewhere afterwards are let go.
    if (place && stepped.current !== notice) visit(place.address, place.station, 'look')
    stepped.current = notice
  }, [notice, place, visit])

  if (context === null)
    return <main className="waiting">{error ? <Unopened id={id} error={error} again={openAgain} /> : <p role="status">Opening the build</p>}</main>
  return (
    <DeskHome.Provider value={desk}>
      <BuildContextHome.Provider value={context}>
        <TrialHome.Provider value={trial}>
          <div className={`frame ${trial?.moving ? 'moving' : ''}`} id={HOME} tabIndex={-1}>
            <Resting>
              <TopBar print={print} />
              <StationRail station={station} go={go} />
              <ProfileStrip plan={plan} swap={swap} />
            </Resting>
            <main className="work" aria-label={`${station} station`}>
              {own.length > 1 && (
                <Resting>
                  <QuestionTabs questions={own} chosen={key} go={go} />
                </Resting>
              )}
              {question ? <QuestionPage key={key} question={question} /> : <p className="empty">Nothing is asked here of a build like this one.</p>}
              {running && (
                <Suspense fallback={null}>
                  <Run questions={own} question={key} />
                </Suspense>
              )}
              {loose && (
                <Suspense fallback={null}>
                  <Tray question={question} />
                </Suspense>
              )}
              <FootBar notice={notice} close={() => setNotice(null)} />
            </main>
            <FindingsPanel station={station} question={key} />
          </div>
          {panel === 'finder' && <Finder close={closePanel} print={print} />}
          {panel !== '' && panel !== 'finder' && (
            <Suspense fallback={null}>
              <Panels question={question} />
            </Suspense>
          )}
        </TrialHome.Provider>
      </BuildContextHome.Provider>
    </DeskHome.Provider>
  )
}
