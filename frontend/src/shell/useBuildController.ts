import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { api, ApiProblem, queries } from '../api/client'
import { typedFigure } from '../api/units'
import type { Assessment, BuildState, DimensionRow, Op, Station, System, TrialState } from '../api/types'
import type { BuildContext, Trial } from './buildContext'
import { isSaid, planFigure } from './patches'

/** What went wrong last, for the person: plain words, and whether someone else changed the build. */
export interface Trouble {
  readonly text: string
  readonly stale: boolean
}

/** A trial answers with what it makes different; the rest stands as stored. */
function tried(stored: Assessment, trial: TrialState): Assessment {
  const findings = new Map([...stored.findings, ...trial.findings].map((f) => [f.id, f]))
  return {
    findings: trial.order.flatMap((id) => findings.get(id) ?? []),
    quantities: { ...stored.quantities, ...trial.quantities },
    next: trial.next,
    tallies: trial.tallies,
  }
}

/** The open build: server state, one trial at a time, and changes against the version on the screen. */
export function useBuildController(id: string, system: System, station: Station) {
  const client = useQueryClient()
  const build = useQuery({ ...queries.build(id), refetchOnWindowFocus: true })
  const catalogue = useQuery(queries.catalogue())
  const [trial, setTrial] = useState<Trial | null>(null)
  // The trial as it is now: answers and entries come in while the screen still shows an older one.
  const now = useRef<Trial | null>(null)
  const show = useCallback((next: Trial | null) => {
    now.current = next
    setTrial(next)
  }, [])
  const [lit, light] = useState('')
  const [openFinding, setOpenFinding] = useState('')
  const [trouble, setTrouble] = useState<Trouble | null>(null)
  const [saving, setSaving] = useState(false)
  const inFlight = useRef(false)
  const waiting = useRef<Trial | null>(null)
  const generation = useRef(0)
  const stationNow = useRef(station)
  const keeping = useRef(false)
  // Quick hands: changes go one after the other, each against the version that the last one made.
  const lastChange = useRef<Promise<string | null>>(Promise.resolve(null))

  const put = useCallback((state: BuildState) => client.setQueryData(queries.build(id).queryKey, state), [client, id])

  const fail = useCallback((error: unknown) => {
    const stale = error instanceof ApiProblem && error.problem.status === 412
    const text = error instanceof Error ? error.message : String(error)
    setTrouble({ text, stale })
    return text
  }, [])

  // One trial request at a time: while it runs only the newest waits. An answer to a dropped trial is thrown away, yet what came after it is still asked.
  const send = useCallback(
    async (next: Trial) => {
      waiting.current = next
      if (inFlight.current) return
      inFlight.current = true
      while (waiting.current !== null) {
        const { ops } = waiting.current
        const mine = generation.current
        waiting.current = null
        try {
          const result = await api.trial(id, ops, stationNow.current)
          if (mine === generation.current && now.current !== null) show({ ...now.current, result })
        } catch (error) {
          if (mine === generation.current) fail(error)
        }
      }
      inFlight.current = false
    },
    [fail, id, show],
  )

  const drop = useCallback(() => {
    generation.current += 1
    waiting.current = null
    show(null)
  }, [show])

  const state = build.data
  const rows = useMemo(() => new Map((catalogue.data?.dimensions ?? []).map((d) => [d.key, d])), [catalogue.data])
  const dimension = useCallback((key: string): DimensionRow | undefined => rows.get(key), [rows])

  const tryValues = useCallback(
    (changed: Readonly<Record<string, number>>) => {
      if (state === undefined) return
      setTrouble(null)
      const values = { ...now.current?.values, ...changed }
      const entries = now.current?.entries ?? []
      const planned = Object.entries(values).flatMap(([key, v]) => planFigure(state.document, key, typedFigure(v), dimension(key)?.unit ?? ''))
      const next: Trial = { values, entries, ops: [...entries.flatMap((e) => e.ops), ...planned], result: now.current?.result ?? null }
      show(next)
      void send(next)
    },
    [dimension, send, show, state],
  )

  // Another station wants its own pictures of the trial that is under way; another version wants it asked anew.
  const version = state?.version
  useEffect(() => {
    stationNow.current = station
    if (now.current !== null && !keeping.current) void send(now.current)
  }, [send, station, version])

  const change = useCallback(
    async (ops: Op[], why: string): Promise<string | null> => {
      const send = async () => {
        // The version is read when this change's turn comes: the one before it has moved it on.
        const shown = client.getQueryData(queries.build(id).queryKey)
        if (shown === undefined) return 'The build is still loading.'
        setTrouble(null)
        try {
          put(await api.patch(id, shown.version, ops, why))
          return null
        } catch (error) {
          return fail(error)
        }
      }
      setSaving(true)
      const mine = lastChange.current.then(send)
      lastChange.current = mine
      const refused = await mine
      if (lastChange.current === mine) setSaving(false)
      return refused
    },
    [client, fail, id, put],
  )

  const keep = useCallback(async () => {
    if (trial === null || keeping.current) return
    keeping.current = true
    try {
      // The result may lag behind the last drag position: what lapses is asked again for what is kept.
      const result = await api.trial(id, trial.ops, station)
      const refused = await change([...trial.ops, ...result.lapse_patch], `trial kept: ${[...Object.keys(trial.values).map((key) => dimension(key)?.name ?? key), ...trial.entries.map((e) => e.why)].join(', ')}`)
      if (refused === null) drop()
    } catch (error) {
      fail(error)
    } finally {
      keeping.current = false
    }
  }, [change, dimension, drop, fail, id, station, trial])

  const enter = useCallback(
    async (ops: Op[], why: string, asTrial = false): Promise<string | null> => {
      const spoils = ops.some((o) => (dimension(o.path.split('/')[2] ?? '')?.event ?? '') !== '')
      if (!asTrial && !spoils && !ops.some((o) => isSaid(state?.document, o.path))) return change(ops, why)
      try {
        const result = await api.trial(id, ops, stationNow.current)
        const { lapsing, turns } = result.ripple
        if (!asTrial && lapsing.length === 0 && !turns.some((t) => t.worse)) return await change(ops, why)
        // What was entered before and is not kept yet stays in the trial.
        const held = now.current
        if (held?.ops.some((o) => o.op === 'remove')) return 'The trial takes a row out: keep it or drop it first.'
        const next: Trial = { values: held?.values ?? {}, entries: [...(held?.entries ?? []), { why, ops }], ops: [...(held?.ops ?? []), ...ops], result: held?.result ?? result }
        show(next)
        if (held !== null) void send(next)
        return null
      } catch (error) {
        return fail(error)
      }
    },
    [change, dimension, fail, id, send, show, state],
  )

  const step = useCallback(
    async (kind: 'undo' | 'redo') => {
      if (state === undefined) return
      drop()
      setTrouble(null)
      try {
        put(await api.step(id, state.version, kind))
      } catch (error) {
        fail(error)
      }
    },
    [drop, fail, id, put, state],
  )

  const reload = useCallback(async () => {
    drop()
    setTrouble(null)
    await build.refetch()
  }, [build, drop])

  const context = useMemo((): BuildContext | null => {
    if (state === undefined || catalogue.data === undefined) return null
    const assessment = trial?.result ? tried(state.assessment, trial.result) : state.assessment
    const boards = { ...state.boards, ...trial?.result?.boards }
    return { state, catalogue: catalogue.data, dimension, assessment, boards, trial, system, lit, light, openFinding, setOpenFinding, tryValues, keep, drop, enter, change, step, saving }
  }, [catalogue.data, change, dimension, drop, enter, keep, lit, openFinding, saving, state, step, system, trial, tryValues])

  return { context, trouble, setTrouble, reload, error: build.error ?? catalogue.error }
}
