import { useEffect, useRef, useState, type ChangeEvent } from 'react'
import { api } from '../api/client'
import type { PatternFound } from '../api/types'
import { isSaid, NOTHING_KNOWN, sizesIn } from '../photos/known'

export type Point = readonly [number, number]
export type Way = 'none' | 'length' | 'rectangle'
export type Unit = '' | 'mm' | 'cm' | 'in'
export const CORNERS: Readonly<Record<Way, number>> = { none: 0, length: 2, rectangle: 4 }

const isPicture = (file: File) => /^image\/(png|jpeg|webp)$/.test(file.type)

/** A drawing or picture that is looked through: what was found in it, and what is known in it. */
export function usePatternFile(arrange: (found: PatternFound) => PatternFound) {
  const [file, setFile] = useState<File | null>(null)
  const [url, setUrl] = useState('')
  const [found, setFound] = useState<PatternFound | null>(null)
  const [told, tell] = useState('')
  const [unit, setUnit] = useState<Unit>('')
  const [way, setWay] = useState<Way>('none')
  const [picked, setPicked] = useState<readonly Point[]>([])
  const [said, say] = useState(NOTHING_KNOWN)
  const picture = file !== null && isPicture(file)
  useEffect(() => (url ? () => URL.revokeObjectURL(url) : undefined), [url])
  const asked = useRef(0)
  const read = async (from: File, as: Unit) => {
    const mine = ++asked.current
    tell('Looking through it')
    try {
      const answer = await api.pattern(from, { unit: as, corners: way === 'none' ? [] : picked.flat(), ...sizesIn(said) })
      // Another file or unit was chosen meanwhile: what comes late is of no use.
      if (mine !== asked.current) return
      const next = arrange(answer)
      setFound(next)
      tell([`${next.circles.length} circles and ${next.lines.length} other outlines found`, ...next.notes, ...(next.unit === '' ? ['the drawing does not say its unit: choose it'] : [])].join('; '))
    } catch (error) {
      if (mine !== asked.current) return
      setFound(null)
      tell(error instanceof Error ? error.message : 'The file could not be read.')
    }
  }
  const choose = (event: ChangeEvent<HTMLInputElement>) => {
    const chosen = event.target.files?.[0] ?? null
    asked.current += 1
    setFile(chosen)
    setFound(null)
    setPicked([])
    tell('')
    setUrl(chosen !== null && isPicture(chosen) ? URL.createObjectURL(chosen) : '')
    if (chosen !== null && !isPicture(chosen)) void read(chosen, unit)
  }
  return {
    file,
    url,
    found,
    told,
    tell,
    unit,
    way,
    picked,
    said,
    picture,
    choose,
    /** Whether what is known in the picture is all said. */
    known: way === 'none' || (picked.length === CORNERS[way] && isSaid(way, said)),
    look: () => (file === null ? Promise.resolve() : read(file, unit)),
    setUnit: (as: Unit) => {
      setUnit(as)
      if (file !== null) void read(file, as)
    },
    setWay: (next: Way) => {
      setWay(next)
      setPicked([])
    },
    say,
    pick: (at: Point) => picked.length < CORNERS[way] && setPicked([...picked, at]),
    unpick: () => setPicked(picked.slice(0, -1)),
  }
}
export type PatternFile = ReturnType<typeof usePatternFile>
