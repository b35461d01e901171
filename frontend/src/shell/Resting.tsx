import { useState, type ReactNode } from 'react'
import { BuildContextHome, useBuild, useTrial } from './buildContext'

/** What stands round the question sees the build as it was when the hand last rested: it is not drawn with every move. */
export function Resting({ children }: { children: ReactNode }) {
  const context = useBuild()
  const moving = useTrial()?.moving ?? false
  const [rested, rest] = useState(context)
  if (!moving && rested !== context) rest(context)
  return <BuildContextHome.Provider value={moving ? rested : context}>{children}</BuildContextHome.Provider>
}
