import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { queries } from './client'
import type { Now } from './types'

/**
 * Listens for changes of a build while it is looked at (server-sent events); false while nothing tells, so that one has to ask.
 * A hidden tab lets go: a browser holds only a few connections to one server.
 */
export function useLive(id: string): boolean {
  const client = useQueryClient()
  const [told, setTold] = useState(false)
  useEffect(() => {
    let source: EventSource | null = null
    const stop = () => {
      source?.close()
      source = null
      setTold(false)
    }
    const listen = () => {
      stop()
      if (document.visibilityState !== 'visible') return
      source = new EventSource(`/api/builds/${id}/live`)
      source.onopen = () => setTold(true)
      source.onerror = () => setTold(false)
      source.onmessage = (event: MessageEvent<string>) => client.setQueryData(queries.now(id, false).queryKey, JSON.parse(event.data) as Now)
    }
    listen()
    document.addEventListener('visibilitychange', listen)
    return () => {
      document.removeEventListener('visibilitychange', listen)
      stop()
    }
  }, [client, id])
  return told
}
