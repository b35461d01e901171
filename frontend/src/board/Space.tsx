import { useEffect, useRef, useState, type ReactNode } from 'react'
import { PerspectiveCamera, Vector3, WebGLRenderer } from 'three'
import type { BoardScene } from '../api/types'
import { figure, unitOf } from '../api/units'
import { useBuild } from '../shell/buildContext'
import { openFinding, useLooked } from '../shell/looked'
import { useSettings } from '../shell/settings'
import { letGo, sceneOf, type Built } from './spaceScene'
import { EM } from './em'
import { useSize } from './useSize'
import './board.css'

interface Camera {
  readonly turn: number
  readonly rise: number
  readonly near: number
}

interface Spot {
  readonly key: string
  readonly x: number
  readonly y: number
  readonly words: string
  readonly verdict: string
  readonly finding: string
}

/** The solids in space: drag to go round, wheel or + and − to come nearer; tight pairs carry their gap as a dimension. */
export default function Space({ scene: shown, children }: { scene: BoardScene; children: ReactNode }) {
  const { system } = useBuild()
  const open = useLooked((l) => l.finding)
  const { theme } = useSettings()
  const [ref, size] = useSize<HTMLDivElement>()
  const canvas = useRef<HTMLCanvasElement>(null)
  const renderer = useRef<WebGLRenderer | null>(null)
  const [camera, setCamera] = useState<Camera>({ turn: 2.5, rise: 0.5, near: 1 })
  const [spots, setSpots] = useState<readonly Spot[]>([])
  const [broken, setBroken] = useState('')
  const from = useRef<{ x: number; y: number } | null>(null)

  useEffect(() => {
    if (canvas.current === null) return undefined
    try {
      renderer.current = new WebGLRenderer({ canvas: canvas.current, antialias: true })
    } catch {
      setBroken('This browser draws nothing in space. The flat views show the same gaps.')
    }
    return () => {
      renderer.current?.dispose()
      renderer.current = null
    }
  }, [])

  // Bodies are made when they change, the eye moves as often as a hand does.
  const [built, setBuilt] = useState<Built | null>(null)
  useEffect(() => {
    const made = sceneOf(shown, open)
    setBuilt(made)
    return () => letGo(made.scene)
  }, [shown, open, theme])

  useEffect(() => {
    const drawer = renderer.current
    if (drawer === null || built === null || size.width === 0) return
    const { scene, tight, middle, far } = built
    const eye = new PerspectiveCamera(32, size.width / size.height, 10, 40000)
    eye.up.set(0, 0, 1)
    const distance = (far * 4.4) / camera.near
    eye.position.set(middle.x + distance * Math.cos(camera.rise) * Math.cos(camera.turn), middle.y + distance * Math.cos(camera.rise) * Math.sin(camera.turn), middle.z + distance * Math.sin(camera.rise))
    eye.lookAt(middle)
    drawer.setPixelRatio(Math.min(window.devicePixelRatio, 2))
    drawer.setSize(size.width * EM, size.height * EM, false)
    drawer.render(scene, eye)
    setSpots(
      tight.map((p) => {
        const at = new Vector3(...p.p).add(new Vector3(...p.q)).divideScalar(2).project(eye)
        return { key: p.finding, x: ((at.x + 1) / 2) * size.width, y: ((1 - at.y) / 2) * size.height, words: `${figure(p.gap, 'length', system, 1)} ${unitOf('length', system)}`, verdict: p.mark, finding: p.finding }
      }),
    )
  }, [built, camera, size, system])

  const nearer = (by: number) => setCamera((c) => ({ ...c, near: Math.min(Math.max(c.near * by, 0.3), 6) }))
  const round = (turn: number, rise: number) => setCamera((c) => ({ ...c, turn: c.turn + turn, rise: Math.min(Math.max(c.rise + rise, -1.4), 1.4) }))
  return (
    <div className="board" role="group" aria-label="Solids in space">
      <div
        className="boardpicture space"
        ref={ref}
        tabIndex={0}
        role="application"
        aria-label="View in space: arrow keys go round, plus and minus come nearer"
        onPointerDown={(e) => {
          if (e.target instanceof HTMLButtonElement) return
          e.currentTarget.setPointerCapture(e.pointerId)
          from.current = { x: e.clientX, y: e.clientY }
        }}
        onPointerMove={(e) => {
          if (from.current === null) return
          round(-(e.clientX - from.current.x) / 160, (e.clientY - from.current.y) / 160)
          from.current = { x: e.clientX, y: e.clientY }
        }}
        onPointerUp={() => (from.current = null)}
        onPointerCancel={() => (from.current = null)}
        onWheel={(e) => nearer(e.deltaY < 0 ? 1.12 : 1 / 1.12)}
        onKeyDown={(e) => {
          const act = { ArrowLeft: () => round(0.12, 0), ArrowRight: () => round(-0.12, 0), ArrowUp: () => round(0, 0.1), ArrowDown: () => round(0, -0.1), '+': () => nearer(1.15), '-': () => nearer(1 / 1.15) }[e.key]
          if (act && e.target === e.currentTarget) {
            e.preventDefault()
            act()
          }
        }}
      >
        <canvas ref={canvas} style={{ width: '100%', height: '100%' }} />
        {spots.map((s) => (
          <button key={s.key} type="button" className={`spot mono ${s.verdict} ${open === s.finding ? 'chosen' : ''}`} style={{ left: s.x * EM, top: s.y * EM }} onClick={() => openFinding(s.finding)}>
            {s.words}
          </button>
        ))}
        {broken && <p role="alert">{broken}</p>}
      </div>
      <div className="boardfoot">
      <p className="viewpoint">in space; drag to go round, wheel to come nearer; blue: engine and gearbox, red: exhaust, ochre: steering</p>
      {children}
      </div>
    </div>
  )
}
