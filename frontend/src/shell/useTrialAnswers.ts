import { useCallback, useEffect, useRef, useState } from 'react'
import { api } from '../api/client'
import type { Act, NearState, TrialState } from '../api/types'
import type { Desk } from '../entry/desk'
import { useDeskPart } from '../entry/useDesk'
import { answered, wordsOf, type Notice } from './notice'

const ASK_AGAIN_MS = 2000

interface Asked {
  readonly id: string
  readonly desk: Desk
  readonly acts: Act[]
  /** The question that is looked at: it answers first. */
  readonly question: string
  readonly version: number | undefined
  /** Whether build and catalogue are here. */
  readonly ready: boolean
  /** Says what went wrong; null takes it back. */
  readonly tell: (notice: Notice | null) => void
}

/** What came of the trial: the whole answer, and after it what the question that is looked at said since. */
export function useTrialAnswers({ id, desk, acts, question, version, ready, tell }: Asked): { result: TrialState | null; near: NearState | null } {
  const trying = useDeskPart(desk, (s) => s.trial !== null)
  // One trial request at a time: while it runs only the newest waits, and an answer is shown only while its trial is.
  // The question that is looked at answers first; all the others follow once the hand rests.
  const [result, setResult] = useState<TrialState | null>(null)
  const [near, setNear] = useState<NearState | null>(null)
  const asking = useRef(false)
  const wanted = useRef<{ acts: Act[]; question: string } | null>(null)
  const again = useRef<() => void>(() => undefined)
  const ask = useCallback(async () => {
    if (asking.current) return
    asking.current = true
    while (wanted.current !== null) {
      const { acts: mine, question: at } = wanted.current
      wanted.current = null
      try {
        if (at !== '') {
          const first = await api.near(id, mine, at)
          if (desk.now().trial === null) continue
          setNear(first)
          if (wanted.current !== null) continue
        }
        const found = await api.trial(id, mine, at)
        if (desk.now().trial === null) continue
        setResult(found)
        setNear(null)
        tell(null)
      } catch (error) {
        if (desk.now().trial === null) continue
        tell({ text: wordsOf(error), kind: 'trial' })
        if (!answered(error)) window.setTimeout(() => again.current(), ASK_AGAIN_MS)
      }
    }
    asking.current = false
  }, [desk, id, tell])
  useEffect(() => {
    if (!ready) return
    // Another question wants its own pictures of the trial; another version wants it asked anew.
    wanted.current = !trying ? null : { acts, question }
    again.current = () => {
      wanted.current = desk.now().trial === null ? null : { acts, question }
      void ask()
    }
    if (!trying) {
      setResult(null)
      setNear(null)
    } else void ask()
  }, [acts, ask, desk, question, ready, trying, version])
  return { result, near }
}
