import { AmbientLight, BufferGeometry, Color, DirectionalLight, EdgesGeometry, ExtrudeGeometry, Group, LatheGeometry, Line, LineBasicMaterial, LineSegments, Matrix4, Mesh, MeshLambertMaterial, Path, Scene, Shape, Vector2, Vector3 } from 'three'
import type { BoardScene } from '../api/types'

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

/** A scene that was built: what is looked at, and how far it reaches. */
export interface Built {
  readonly scene: Scene
  readonly tight: readonly Tight[]
  readonly middle: Vector3
  readonly far: number
}

/** Builds bodies and gaps once; going round moves only the eye. */
export function sceneOf(shown: BoardScene, open: string): Built {
  const scene = new Scene()
  scene.background = ink('--sheet')
  const engine = shown.solids.filter((s) => s.body !== 'chassis')
  const middle = new Vector3()
  for (const s of engine) middle.add(new Vector3(...s.place).divideScalar(engine.length))
  const far = engine.reduce((most, s) => Math.max(most, new Vector3(...s.place).distanceTo(middle)), 200)
  for (const s of shown.solids) scene.add(solidMesh(s))
  const tight = shown.gaps.filter((p) => p.mark !== 'goes' || p.finding === open)
  for (const p of tight) scene.add(gapLine(p))
  const light = new DirectionalLight(0xffffff, 2.2)
  light.position.set(0.4, 0.7, 1)
  scene.add(light, new AmbientLight(0xffffff, 1.4))
  return { scene, tight, middle, far }
}

/** Gives back what a scene holds of the graphics card. */
export function letGo(scene: Scene): void {
  scene.traverse((o) => {
    if (o instanceof Mesh || o instanceof Line || o instanceof LineSegments) {
      o.geometry.dispose()
      for (const m of [o.material].flat()) m.dispose()
    }
  })
}
