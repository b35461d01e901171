import { useEffect, useRef, useState } from 'react'

/** Width and height of an element in pixels, followed as it changes. */
export function useSize<T extends Element>() {
  const ref = useRef<T>(null)
  const [size, setSize] = useState({ width: 0, height: 0 })
  useEffect(() => {
    const element = ref.current
    if (element === null) return undefined
    const watch = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: Math.floor(entry.contentRect.width), height: Math.floor(entry.contentRect.height) })
    })
    watch.observe(element)
    return () => watch.disconnect()
  }, [])
  return [ref, size] as const
}
