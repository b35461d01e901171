import { useEffect, useRef, useState, type ReactNode } from 'react'
import { AmbientLight, BufferGeometry, Color, DirectionalLight, EdgesGeometry, ExtrudeGeometry, Group, LatheGeometry, Line, LineBasicMaterial, LineSegments, Matrix4, Mesh, MeshLambertMaterial, Path, PerspectiveCamera, Scene, Shape, Vector2, Vector3, WebGLRenderer } from 'three'
import type { BoardScene } from '../api/types'
import { figure, unitOf } from '../api/units'
import { useSize } from './useSize'
import { useBuild } from '../shell/buildContext'
import { useSettings } from '../shell/settings'

const ink = (name: string) => new Color(getComputedStyle(document.documentElement).getPropertyValue(name).trim())

type Solid = BoardScene['solids'][number]
type Tight = BoardScene['gaps'][number]

/** A form of two kinds: an outline turned about its axis, or one that is as thick as it is said, with a round hole. */
function geometryOf({ mesh }: Solid): BufferGeometry {
  const points = mesh.outline.map(([x = 0, y = 0]) => new Vector2(x, y))
  // The library turns about y; our axis is z.
  if (mesh.turned) return new LatheGeometry(points, 28).rotateX(Math.PI / 2)
  const flat = new Shape(points)
  if (mesh.hole) flat.holes.push(new Path().absarc(0, 0, mesh.hole / 2, 0, 2 * Math.PI, true))
  return new ExtrudeGeometry(flat, { depth: mesh.thick, bevelEnabled: false, curveSegments: 28 }).translate(0, 0, -mesh.thick / 2)
}

const INKS: Readonly<Record<string, string>> = { engine: '--blue', chassis: '--casting', hot: '--fouls', steering: '--tight', sheet: '--casting' }

function solidMesh(s: Solid): Group {
  const colour = INKS[s.ink] ?? '--casting'
  const sheet = s.ink === 'sheet'
  const geometry = geometryOf(s)
  const mesh = new Mesh(geometry, new MeshLambertMaterial({ color: ink(colour), transparent: sheet, opacity: sheet ? 0.35 : 1 }))
  const edges = new LineSegments(new EdgesGeometry(geometry, 25), new LineBasicMaterial({ color: ink('--ink') }))
  const [r00 = 1, r01 = 0, r02 = 0, r10 = 0, r11 = 1, r12 = 0, r20 = 0, r21 = 0, r22 = 1] = s.turn
  const group = new Group()
  group.add(mesh, edges)
  group.applyMatrix4(new Matrix4().set(r00, r01, r02, s.place[0], r10, r11, r12, s.place[1], r20, r21, r22, s.place[2], 0, 0, 0, 1))
  group.name = s.name
  return group
}

const gapLine = (p: Tight) => new Line(new BufferGeometry().setFromPoints([new Vector3(...p.p), new Vector3(...p.q)]), new LineBasicMaterial({ color: ink(`--${p.mark}`), depthTest: false }))

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
  const { system, openFinding, setOpenFinding } = useBuild()
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

  useEffect(() => {
    const drawer = renderer.current
    if (drawer === null || size.width === 0) return
    const scene = new Scene()
    scene.background = ink('--sheet')
    const engine = shown.solids.filter((s) => s.body !== 'chassis')
    const middle = new Vector3()
    for (const s of engine) middle.add(new Vector3(...s.place).divideScalar(engine.length))
    const far = engine.reduce((most, s) => Math.max(most, new Vector3(...s.place).distanceTo(middle)), 200)
    for (const s of shown.solids) scene.add(solidMesh(s))
    const tight = shown.gaps.filter((p) => p.mark !== 'goes' || p.finding === openFinding)
    for (const p of tight) scene.add(gapLine(p))
    const light = new DirectionalLight(0xffffff, 2.2)
    light.position.set(0.4, 0.7, 1)
    scene.add(light, new AmbientLight(0xffffff, 1.4))
    const eye = new PerspectiveCamera(32, size.width / size.height, 10, 40000)
    eye.up.set(0, 0, 1)
    const distance = (far * 4.4) / camera.near
    eye.position.set(middle.x + distance * Math.cos(camera.rise) * Math.cos(camera.turn), middle.y + distance * Math.cos(camera.rise) * Math.sin(camera.turn), middle.z + distance * Math.sin(camera.rise))
    eye.lookAt(middle)
    drawer.setPixelRatio(Math.min(window.devicePixelRatio, 2))
    drawer.setSize(size.width, size.height, false)
    drawer.render(scene, eye)
    setSpots(
      tight.map((p) => {
        const at = new Vector3(...p.p).add(new Vector3(...p.q)).divideScalar(2).project(eye)
        return { key: p.finding, x: ((at.x + 1) / 2) * size.width, y: ((1 - at.y) / 2) * size.height, words: `${figure(p.gap, 'length', system, 1)} ${unitOf('length', system)}`, verdict: p.mark, finding: p.finding }
      }),
    )
    scene.traverse((o) => {
      if (o instanceof Mesh || o instanceof Line || o instanceof LineSegments) {
        o.geometry.dispose()
        for (const m of [o.material].flat()) m.dispose()
      }
    })
  }, [shown, camera, openFinding, size, system, theme])

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
          <button key={s.key} type="button" className={`spot mono ${s.verdict} ${openFinding === s.finding ? 'chosen' : ''}`} style={{ left: s.x, top: s.y }} onClick={() => setOpenFinding(s.finding)}>
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
