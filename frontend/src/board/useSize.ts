import { useEffect, useRef, useState } from 'react'
import { EM } from './em'

/** Width and height of an element in pixels of a picture, followed as it changes. */
export function useSize<T extends Element>() {
  const ref = useRef<T>(null)
  const [size, setSize] = useState({ width: 0, height: 0 })
  useEffect(() => {
    const element = ref.current
    if (element === null) return undefined
    const watch = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: Math.floor(entry.contentRect.width / EM), height: Math.floor(entry.contentRect.height / EM) })
    })
    watch.observe(element)
    return () => watch.disconnect()
  }, [])
  return [ref, size] as const
}
