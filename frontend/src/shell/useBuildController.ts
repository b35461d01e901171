import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { api, ApiProblem, queries } from '../api/client'
import { typedFigure } from '../api/units'
import type { Assessment, BuildState, DimensionRow, Op, Station, System, TrialState } from '../api/types'
import type { BuildContext, Trial } from './buildContext'
import { planFigure } from './patches'

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
          if (mine === generation.current) setTrial((shown) => (shown === null ? null : { ...shown, result }))
        } catch (error) {
          if (mine === generation.current) fail(error)
        }
      }
      inFlight.current = false
    },
    [fail, id],
  )

  const drop = useCallback(() => {
    generation.current += 1
    waiting.current = null
    setTrial(null)
  }, [])

  const state = build.data
  const rows = useMemo(() => new Map((catalogue.data?.dimensions ?? []).map((d) => [d.key, d])), [catalogue.data])
  const dimension = useCallback((key: string): DimensionRow | undefined => rows.get(key), [rows])

  const tryValues = useCallback(
    (changed: Readonly<Record<string, number>>) => {
      if (state === undefined) return
      setTrouble(null)
      const values = { ...trial?.values, ...changed }
      const ops = Object.entries(values).flatMap(([key, v]) => planFigure(state.document, key, typedFigure(v), dimension(key)?.unit ?? ''))
      const names = Object.keys(values).map((key) => dimension(key)?.name ?? key)
      const next: Trial = { why: names.join(', '), values, ops, result: trial?.result ?? null }
      setTrial(next)
      void send(next)
    },
    [dimension, send, state, trial],
  )

  // Another station wants its own pictures of the trial that is under way.
  useEffect(() => {
    stationNow.current = station
    if (trial !== null) void send(trial)
    // Only a change of station asks again: a change of the trial itself was sent where it was made.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [station])

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
      const refused = await change([...trial.ops, ...result.lapse_patch], `trial kept: ${trial.why}`)
      if (refused === null) drop()
    } catch (error) {
      fail(error)
    } finally {
      keeping.current = false
    }
  }, [change, drop, fail, id, station, trial])

  const tryOps = useCallback(
    async (ops: Op[], why: string): Promise<string | null> => {
      try {
        const result = await api.trial(id, ops, station)
        drop()
        setTrial({ why, values: {}, ops, result })
        return null
      } catch (error) {
        return fail(error)
      }
    },
    [drop, fail, id, station],
  )

  const enter = useCallback(
    async (ops: Op[], why: string): Promise<string | null> => {
      const spoils = ops.some((o) => (dimension(o.path.split('/')[2] ?? '')?.event ?? '') !== '')
      if (!spoils) return change(ops, why)
      try {
        const result = await api.trial(id, ops, station)
        if (result.ripple.lapsing.length === 0) return await change(ops, why)
        drop()
        setTrial({ why, values: {}, ops, result })
        return null
      } catch (error) {
        return fail(error)
      }
    },
    [change, dimension, drop, fail, id, station],
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
    return { state, catalogue: catalogue.data, dimension, assessment, boards, trial, system, lit, light, openFinding, setOpenFinding, tryValues, tryOps, keep, drop, enter, change, step, saving }
  }, [catalogue.data, change, dimension, drop, enter, keep, lit, openFinding, saving, state, step, system, trial, tryOps, tryValues])

  return { context, trouble, setTrouble, reload, error: build.error ?? catalogue.error }
}
