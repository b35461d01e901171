import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { api, queries } from '../api/client'
import { useLive } from '../api/live'
import { boardsWith, changed, differing, nearer } from '../api/changed'
import type { Act, Boards, BuildChange, BuildState, DimensionRow, System } from '../api/types'
import { actsOf, Desk, type Answer, type Held } from '../entry/desk'
import { goHome, tone } from '../entry/hands'
import { lockerOf, newName } from '../entry/kept'
import { useDeskPart } from '../entry/useDesk'
import { settledBy, type Settled } from '../findings/settled'
import type { BuildContext, Trial } from './buildContext'
import { answered, passing, told, wordsOf, type Notice } from './notice'
import { screenHere, settingsNow } from './settings'
import { useTrialAnswers } from './useTrialAnswers'

const epochOf = (tag: string) => tag.split('-')[0]

/** The open build: server state, the desk that entries go over, and one trial at a time. */
export function useBuildController(id: string, system: System, question: string) {
  const client = useQueryClient()
  const build = useQuery({ ...queries.build(id), refetchOnWindowFocus: true })
  const catalogue = useQuery(queries.catalogue())
  const [notice, setNotice] = useState<Notice | null>(null)
  const [saving, setSaving] = useState(false)
  const [settled, setSettled] = useState<Settled | null>(null)
  const looking = useRef(question)
  useEffect(() => {
    looking.current = question
  }, [question])
  const looked = useCallback(() => ({ shown: client.getQueryData(queries.build(id).queryKey)?.tag ?? '', question: looking.current }), [client, id])
  const put = useCallback(
    (answer: BuildState | BuildChange) => {
      const key = queries.build(id).queryKey
      const shown = client.getQueryData(key)
      let state: BuildState
      if ('since' in answer) {
        if (shown?.tag !== answer.since) {
          // The screen went on meanwhile: what differs from another version says nothing here.
          void client.invalidateQueries({ queryKey: key })
          return
        }
        state = changed(shown, answer)
        const drawn = client.getQueryData(queries.boards(id, answer.since, looking.current).queryKey)
        if (drawn !== undefined) client.setQueryData(queries.boards(id, answer.tag, looking.current).queryKey, { tag: answer.tag, boards: boardsWith(drawn.boards, answer.boards) })
      } else state = answer
      // Two answers may cross: the newer version stays.
      if (shown === undefined || shown.version <= state.version || epochOf(shown.tag) !== epochOf(state.tag)) client.setQueryData(key, state)
    },
    [client, id],
  )

  const desk = useMemo(() => {
    const send = async (entry: Held): Promise<Answer> => {
      try {
        const findings = () => client.getQueryData(queries.build(id).queryKey)?.assessment.findings ?? []
        const answer = await api.enter(id, entry.acts, entry.words, entry.key, false, entry.seen, looked())
        const before = findings()
        put(answer)
        setSettled(settledBy(`${entry.words} ${entry.text}`, before, findings()))
        setNotice((now) => (now?.kind === 'data' ? null : now))
        // The screen shows the new state before the desk lets go of what was typed.
        await new Promise((shown) => window.setTimeout(shown))
        return { kind: 'stored' }
      } catch (error) {
        if (told(error) && passing(error)) setNotice({ text: error.message, kind: 'data' })
        if (!answered(error)) return { kind: 'no answer' }
        if (error.problem.type === '/problems/moved-on') void client.invalidateQueries({ queryKey: queries.build(id).queryKey })
        return { kind: error.problem.type === '/problems/lapses' ? 'lapses' : 'refused', words: error.message }
      }
    }
    const seen = () => client.getQueryData(queries.build(id).queryKey)?.tag ?? ''
    return new Desk({ send, seen, refused: () => settingsNow().sound && tone(), now: () => Date.now(), later: (act, ms) => void window.setTimeout(act, ms) })
  }, [client, id, looked, put])
  useEffect(() => {
    void lockerOf(id).then(desk.open)
    const again = () => void desk.run()
    window.addEventListener('online', again)
    return () => window.removeEventListener('online', again)
  }, [desk, id])
  const trying = useDeskPart(desk, (s) => s.trial)
  const unsent = useDeskPart(desk, (s) => s.waiting.length + s.refused.length + Object.keys(s.drafts).length > 0)
  useEffect(() => {
    if (!unsent) return undefined
    const ask = (event: BeforeUnloadEvent) => event.preventDefault()
    window.addEventListener('beforeunload', ask)
    return () => window.removeEventListener('beforeunload', ask)
  }, [unsent])

  const state = build.data
  // Another screen's change is seen here without being asked for.
  const live = useLive(id)
  const there = useQuery({ ...queries.now(id, !live), enabled: state !== undefined }).data
  useEffect(() => {
    if (there === undefined) return
    const shown = client.getQueryData(queries.build(id).queryKey)
    if (shown === undefined || (epochOf(shown.tag) === epochOf(there.tag) && shown.version >= there.version)) return
    void client.invalidateQueries({ queryKey: queries.build(id).queryKey })
    if (epochOf(shown.tag) !== epochOf(there.tag)) setNotice({ text: 'The data was restored: this is the build as it stands now.', kind: 'theirs' })
    else if (there.screen !== screenHere) setNotice({ text: `${there.who || 'Another screen'}: ${there.words.slice(0, 3).join('; ')}${there.words.length > 3 ? ` and ${there.words.length - 3} more` : ''}`, kind: 'theirs' })
  }, [client, id, there])
  const rows = useMemo(() => new Map((catalogue.data?.dimensions ?? []).map((d) => [d.key, d])), [catalogue.data])
  const dimension = useCallback((key: string): DimensionRow | undefined => rows.get(key), [rows])
  const actsNow = useCallback(() => actsOf(desk.now().trial, (key) => dimension(key)?.unit ?? ''), [desk, dimension])
  const acts = useMemo(() => actsOf(trying, (key) => dimension(key)?.unit ?? ''), [dimension, trying])

  const tell = useCallback((notice: Notice | null) => setNotice((now) => notice ?? (now?.kind === 'trial' ? null : now)), [])
  const { result, near } = useTrialAnswers({ id, desk, actsNow, question, version: state?.version, ready: state !== undefined && catalogue.data !== undefined, tell })

  const drop = useCallback(() => {
    desk.drop()
    goHome()
  }, [desk])

  const change = useCallback(
    async (acts: readonly Act[], why: string, seen?: string): Promise<string | null> => {
      if (!(await desk.idle())) return 'Pindo does not answer yet: what was typed before is still waiting. What you typed here is kept.'
      setNotice(null)
      setSaving(true)
      try {
        put(await api.enter(id, acts, why, newName(), true, seen ?? looked().shown, looked()))
        return null
      } catch (error) {
        if (told(error) && error.problem.type === '/problems/moved-on') await client.invalidateQueries({ queryKey: queries.build(id).queryKey })
        return told(error) ? error.message : 'Pindo does not answer. What you typed is kept here.'
      } finally {
        setSaving(false)
      }
    },
    [client, desk, id, looked, put],
  )

  const keep = useCallback(async () => {
    const tried = desk.now().trial
    const acts = actsNow()
    if (tried === null || acts.length === 0 || saving) return
    const words = [...tried.parts.map((p) => `${p.words} ${p.text}`), ...Object.keys(tried.values).map((key) => dimension(key)?.name ?? key)]
    const wrong = await change(acts, `trial kept: ${words.join(', ')}`, tried.seen)
    if (wrong === null) drop()
    else {
      desk.lookedAgain()
      setNotice({ text: wrong, kind: 'trouble' })
    }
  }, [actsNow, change, desk, dimension, drop, saving])

  const step = useCallback(
    async (kind: 'undo' | 'redo', of?: number) => {
      if (!(await desk.idle())) {
        setNotice({ text: 'Pindo does not answer: what was typed is still waiting, and nothing was undone.', kind: 'trouble' })
        return
      }
      const shown = client.getQueryData(queries.build(id).queryKey)
      if (shown === undefined) return
      desk.drop()
      goHome()
      try {
        const now = await api.step(id, shown.tag, kind, of, looked())
        const words = now.stepped?.words ?? []
        const text = `${kind === 'undo' ? 'Undone' : 'Done again'}: ${words.slice(0, 3).join('; ')}${words.length > 3 ? ` and ${words.length - 3} more` : ''}`
        setNotice({ text, kind: 'stepped', back: kind === 'undo' ? 'redo' : 'undo', place: now.stepped?.places[0] })
        put(now)
      } catch (error) {
        const theirs = told(error) ? error.problem.change : undefined
        if (theirs !== undefined) setNotice({ text: `The last change is not yours. ${theirs.who || 'Another screen'}: ${theirs.words.slice(0, 3).join('; ')}`, kind: 'trouble', theirs: { kind, version: theirs.version } })
        else setNotice({ text: wordsOf(error), kind: 'trouble' })
        await build.refetch()
      }
    },
    [build, client, desk, id, looked, put],
  )

  const drawn = useQuery({ ...queries.boards(id, state?.tag ?? '', question), enabled: state !== undefined, placeholderData: keepPreviousData }).data?.boards
  const onTrial = trying !== null
  const trial = useMemo((): Trial | null => (trying === null ? null : { ...trying, acts, result, moving: near !== null }), [acts, near, result, trying])
  const stored = state?.assessment
  // What the last whole answer said, then what the question said since.
  const whole = useMemo(() => (stored !== undefined && onTrial && result !== null ? differing(stored, result) : stored), [onTrial, result, stored])
  const assessment = useMemo(() => (stored !== undefined && whole !== undefined && onTrial && near !== null ? nearer(stored, whole, near, question) : whole), [near, onTrial, question, stored, whole])
  const boards = useMemo((): Boards => boardsWith(drawn, onTrial ? { ...result?.boards, ...near?.boards } : {}), [drawn, near, onTrial, result])
  const context = useMemo((): BuildContext | null => {
    if (state === undefined || assessment === undefined || catalogue.data === undefined) return null
    return { state, catalogue: catalogue.data, dimension, assessment, boards, system, tryValues: desk.tryValues, keep, drop, change, step, saving, settled }
  }, [assessment, boards, catalogue.data, change, desk, dimension, drop, keep, saving, settled, state, step, system])

  return { context, trial, desk, notice, setNotice, error: state === undefined ? (build.error ?? catalogue.error) : null, openAgain: () => void build.refetch() }
}
