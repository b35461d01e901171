import { useCallback, useEffect, useRef, useState } from 'react'
import { api } from '../api/client'
import type { Act, NearState, TrialState } from '../api/types'
import type { Desk } from '../entry/desk'
import { answered, wordsOf, type Notice } from './notice'

const ASK_AGAIN_MS = 2000

interface Asked {
  readonly id: string
  readonly desk: Desk
  /** The acts of the trial as it stands now. */
  readonly actsNow: () => Act[]
  /** The question that is looked at: it answers first. */
  readonly question: string
  readonly version: number | undefined
  /** Whether build and catalogue are here. */
  readonly ready: boolean
  /** Says what went wrong; null takes it back. */
  readonly tell: (notice: Notice | null) => void
}

interface Wanted {
  readonly acts: Act[]
  readonly question: string
}

/** Requests under way at once: the server works on the next while the screen draws the last. */
const MOST = 2

/** What came of the trial: the whole answer, and after it what the question that is looked at said since. */
export function useTrialAnswers({ id, desk, actsNow, question, version, ready, tell }: Asked): { result: TrialState | null; near: NearState | null } {
  const [result, setResult] = useState<TrialState | null>(null)
  const [near, setNear] = useState<NearState | null>(null)
  const wanted = useRef<Wanted | null>(null)
  const under = useRef(0)
  // Answers may cross: each has the number of its request, and one that is older than what is shown is let go.
  const last = useRef({ asked: 0, near: 0, whole: 0 })
  const again = useRef<() => void>(() => undefined)
  const run = useRef<() => void>(() => undefined)

  /** Asks one trial: the question that is looked at first; all the others once the hand rests. */
  const one = useCallback(
    async ({ acts, question: at }: Wanted) => {
      const mine = ++last.current.asked
      const counts = (before: number) => desk.now().trial !== null && mine > before
      try {
        if (at !== '') {
          const first = await api.near(id, acts, at)
          if (!counts(last.current.near)) return
          last.current.near = mine
          setNear(first)
          if (wanted.current !== null || mine < last.current.asked) return
        }
        const found = await api.trial(id, acts, at)
        if (!counts(last.current.whole)) return
        last.current.whole = mine
        setResult(found)
        if (mine >= last.current.near) setNear(null)
        tell(null)
      } catch (error) {
        if (!counts(last.current.whole)) return
        tell({ text: wordsOf(error), kind: 'trial' })
        if (!answered(error)) window.setTimeout(() => again.current(), ASK_AGAIN_MS)
      } finally {
        under.current -= 1
        run.current()
      }
    },
    [desk, id, tell],
  )
  useEffect(() => {
    run.current = () => {
      while (under.current < MOST && wanted.current !== null) {
        const next = wanted.current
        wanted.current = null
        under.current += 1
        void one(next)
      }
    }
    if (!ready) return undefined
    // Asked straight from the desk, not after the screen was drawn.
    const follow = () => {
      wanted.current = desk.now().trial === null ? null : { acts: actsNow(), question }
      if (wanted.current === null) {
        // What is still under way belongs to the trial that was dropped.
        last.current = { ...last.current, near: last.current.asked, whole: last.current.asked }
        setResult(null)
        setNear(null)
      } else run.current()
    }
    again.current = follow
    // Another question wants its own pictures of the trial; another version wants it asked anew.
    last.current.near = last.current.asked
    follow()
    let seen = desk.now().trial
    return desk.subscribe(() => {
      if (desk.now().trial === seen) return
      seen = desk.now().trial
      follow()
    })
  }, [actsNow, desk, one, question, ready, version])
  return { result, near }
}
