import {
  Box3, BufferAttribute, BufferGeometry, EdgesGeometry, Group, LineBasicMaterial, LineSegments, Matrix4, Mesh, OrthographicCamera,
  Raycaster, Scene, Vector2, Vector3, WebGLRenderer,
} from 'three'
import { OrbitControls } from 'three/addons/controls/OrbitControls.js'

import type { Schemas } from '../api/client'
import { PaperMaterial } from './paper'

export type DryFit = Schemas['DryFitShown']
export type CopyRef = Schemas['CopyRef']

/** How one copy is shown: shifted by some mm in space, strongly, faintly or not at all. */
export interface Showing {
  shift: [number, number, number]
  chosen: boolean
  hidden: boolean
  wrong?: boolean
}

/** Directions that the set views look from. */
export const VIEWS = { Corner: [-0.62, -0.9, 0.72], Front: [0, -1, 0], Right: [1, 0, 0], Top: [0, -0.0001, 1] } as const

export const CANNOT_DRAW = 'This browser cannot draw in space (WebGL is missing or switched off).'

const GROUND = 0xf5f0e6
const INK = 0x1c2433
const ACCENT = 0x173f8f
const WRONG = 0xa32c1a

/** What is added to the tint of a part that is chosen or wrong: red, green, blue. */
const GLOWS = { none: [0, 0, 0], chosen: [-0.1, -0.06, 0.06], wrong: [0.16, -0.08, -0.1] } as const

/** Room about what is shown: a share of it, but no less than the sizes on both sides need, in pixels. */
const LEAST_ROOM = 0.16
const SIZES = 104

/** Drawn pixels to each of the screen's, at rest and while it is turned. */
const SHARP = Math.max(1.5, Math.min(2, window.devicePixelRatio))
const COARSE = 0.6

interface Body {
  part: string
  number: number
  group: Group
  face: PaperMaterial
  edge: LineBasicMaterial
  home: Matrix4
}

/** The assembly drawn in space. Nothing is drawn unless something has changed. */
export class AssemblyScene {
  private readonly scene = new Scene()
  private readonly camera = new OrthographicCamera()
  private readonly renderer: WebGLRenderer
  private readonly controls: OrbitControls
  private bodies: Body[] = []
  private waiting = false
  private size = { width: 1, height: 1 }
  private halfHeight = 100
  /** Whether the view is being turned by hand just now; sizes are not drawn meanwhile. */
  turning = false
  /** Called after each drawing, so that labels can follow. */
  onDrawn: () => void = () => undefined

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, context: opaque(canvas), antialias: false })
    this.renderer.setClearColor(GROUND)
    this.renderer.setPixelRatio(SHARP)
    this.camera.up.set(0, 0, 1)
    this.controls = new OrbitControls(this.camera, canvas)
    this.controls.enableDamping = false
    this.controls.addEventListener('change', () => this.draw())
    // A machine that draws in software turns it smoothly only if it draws it coarser meanwhile.
    this.controls.addEventListener('start', () => this.setTurning(true))
    this.controls.addEventListener('end', () => this.setTurning(false))
  }

  dispose(): void {
    this.controls.dispose()
    this.clear()
    this.renderer.dispose()
  }

  resize(width: number, height: number): void {
    this.size = { width: Math.max(1, width), height: Math.max(1, height) }
    this.renderer.setSize(this.size.width, this.size.height, false)
    this.frameCamera()
    this.draw()
  }

  private setTurning(turning: boolean): void {
    this.turning = turning
    this.renderer.setPixelRatio(turning ? COARSE : SHARP)
    this.renderer.setSize(this.size.width, this.size.height, false)
    this.draw()
  }

  private frameCamera(): void {
    const across = (this.halfHeight * this.size.width) / this.size.height
    Object.assign(this.camera, { left: -across, right: across, top: this.halfHeight, bottom: -this.halfHeight, near: 0.1, far: 1e6 })
    this.camera.updateProjectionMatrix()
  }

  private clear(): void {
    for (const body of this.bodies) {
      this.scene.remove(body.group)
      for (const child of body.group.children as (Mesh | LineSegments)[]) child.geometry.dispose()
      body.face.dispose()
      body.edge.dispose()
    }
    this.bodies = []
  }

  /** Takes over parts and places; the view stays as it is. */
  take(fit: Pick<DryFit, 'meshes' | 'copies'>, tints: Record<string, string>): void {
    this.clear()
    const shapes = new Map(fit.meshes.map((mesh) => [mesh.part, solid(mesh)]))
    for (const copy of fit.copies) {
      const shape = shapes.get(copy.part)
      if (!shape) continue
      const face = new PaperMaterial(tints[copy.part] ?? '#ddd')
      const edge = new LineBasicMaterial({ color: INK })
      const group = new Group()
      group.add(new Mesh(shape.face, face), new LineSegments(shape.edges, edge))
      const home = new Matrix4().set(...(copy.matrix as [number, number, number, number, number, number, number, number, number, number, number, number]), 0, 0, 0, 1)
      group.matrixAutoUpdate = false
      group.matrix.copy(home)
      this.scene.add(group)
      group.updateMatrixWorld(true)
      this.bodies.push({ part: copy.part, number: copy.number, group, face, edge, home })
    }
    this.draw()
  }

  /** Shows each copy as told. */
  show(how: (part: string, number: number) => Showing): void {
    for (const body of this.bodies) {
      const { shift, chosen, hidden, wrong } = how(body.part, body.number)
      body.group.visible = !hidden
      body.group.matrix.copy(new Matrix4().makeTranslation(...shift)).multiply(body.home)
      body.group.updateMatrixWorld(true)
      body.edge.color.setHex(wrong ? WRONG : chosen ? ACCENT : INK)
      body.face.glow = wrong ? GLOWS.wrong : chosen ? GLOWS.chosen : GLOWS.none
    }
    this.draw()
  }

  /** From the middle of each group to that of each of its copies, by part and number. */
  awayFromMiddles(groupOf: (copy: CopyRef) => number): Map<string, [number, number, number]> {
    const groups = new Map<number, { body: Body; middle: Vector3 }[]>()
    for (const body of this.bodies) {
      const [face] = body.group.children as [Mesh]
      face.geometry.computeBoundingBox()
      const middle = (face.geometry.boundingBox ?? new Box3()).getCenter(new Vector3()).applyMatrix4(body.home)
      const group = groupOf(body)
      groups.set(group, [...(groups.get(group) ?? []), { body, middle }])
    }
    const away = new Map<string, [number, number, number]>()
    for (const items of groups.values()) {
      const centre = new Vector3()
      for (const { middle } of items) centre.addScaledVector(middle, 1 / items.length)
      for (const { body, middle } of items) away.set(`${body.part}/${body.number}`, middle.clone().sub(centre).toArray())
    }
    return away
  }

  /** Looks from a direction and fits all that is shown into the frame, with room for the sizes about it. */
  look(from: readonly [number, number, number], only?: (part: string, number: number) => boolean): void {
    const box = new Box3()
    for (const body of this.bodies) {
      if (body.group.visible && (!only || only(body.part, body.number))) box.expandByObject(body.group)
    }
    if (box.isEmpty()) return
    const middle = box.getCenter(new Vector3())
    const size = box.getSize(new Vector3()).length()
    this.camera.position.copy(middle).addScaledVector(new Vector3(...from).normalize(), size * 2)
    this.camera.zoom = 1
    this.controls.target.copy(middle)
    this.camera.lookAt(middle)
    this.camera.updateMatrixWorld()
    const room = Math.max(LEAST_ROOM, SIZES / Math.max(SIZES, this.size.width - SIZES))
    this.halfHeight = this.reach(box, middle) * (1 + room)
    this.frameCamera()
    this.controls.update()
    this.draw()
  }

  /** Half the height that the frame must have for the box to fit into it as it is seen now. */
  private reach(box: Box3, middle: Vector3): number {
    const right = new Vector3().setFromMatrixColumn(this.camera.matrixWorld, 0)
    const up = new Vector3().setFromMatrixColumn(this.camera.matrixWorld, 1)
    let half = 1
    for (const x of [box.min.x, box.max.x]) for (const y of [box.min.y, box.max.y]) for (const z of [box.min.z, box.max.z]) {
      const spoke = new Vector3(x, y, z).sub(middle)
      half = Math.max(half, Math.abs(spoke.dot(up)), (Math.abs(spoke.dot(right)) * this.size.height) / this.size.width)
    }
    return half
  }

  zoom(factor: number): void {
    this.camera.zoom = Math.min(40, Math.max(0.1, this.camera.zoom * factor))
    this.camera.updateProjectionMatrix()
    this.draw()
  }

  /** Turns the view by degrees, as dragging does. */
  turn(across: number, up: number): void {
    const spoke = this.camera.position.clone().sub(this.controls.target)
    spoke.applyAxisAngle(new Vector3(0, 0, 1), (-across * Math.PI) / 180)
    const axis = new Vector3(0, 0, 1).cross(spoke).normalize()
    const tilted = spoke.clone().applyAxisAngle(axis, (-up * Math.PI) / 180)
    if (Math.abs(tilted.clone().normalize().z) < 0.999) spoke.copy(tilted)
    this.camera.position.copy(this.controls.target).add(spoke)
    this.controls.update()
    this.draw()
  }

  /** Where a point in space is in the frame, in pixels. */
  project(point: readonly number[]): { x: number; y: number } {
    const seen = new Vector3(point[0], point[1], point[2]).project(this.camera)
    return { x: ((seen.x + 1) / 2) * this.size.width, y: ((1 - seen.y) / 2) * this.size.height }
  }

  /** Turns some parts by degrees about an axis, a point and a direction in space; all others stand as they stood. */
  turnAbout(parts: Set<string>, point: readonly number[], axis: readonly number[], degrees: number): void {
    const turn = turning(point, axis, degrees)
    for (const body of this.bodies) {
      body.group.matrix.copy(parts.has(body.part) ? turn.clone().multiply(body.home) : body.home)
      body.group.updateMatrixWorld(true)
    }
    this.draw()
  }

  /** Where a point in space comes to stand by such a turn. */
  turnedPoint(at: readonly number[], point: readonly number[], axis: readonly number[], degrees: number): [number, number, number] {
    return new Vector3(at[0], at[1], at[2]).applyMatrix4(turning(point, axis, degrees)).toArray()
  }

  /** The copy under a place in the frame. */
  pick(x: number, y: number): CopyRef | null {
    const hit = this.hit(x, y)
    const body = hit && this.bodies.find((b) => b.group.children[0] === hit.object)
    return body ? { part: body.part, number: body.number } : null
  }

  /** The direction in which the face under a place in the frame looks, in space. */
  faceAt(x: number, y: number): [number, number, number] | null {
    const hit = this.hit(x, y)
    return hit?.face ? hit.face.normal.clone().transformDirection(hit.object.matrixWorld).toArray() : null
  }

  private hit(x: number, y: number) {
    const ray = new Raycaster()
    ray.setFromCamera(new Vector2((x / this.size.width) * 2 - 1, 1 - (y / this.size.height) * 2), this.camera)
    const faces = this.bodies.filter((body) => body.group.visible).map((body) => body.group.children[0] as Mesh)
    return ray.intersectObjects(faces, false)[0]
  }

  draw(): void {
    if (this.waiting) return
    this.waiting = true
    requestAnimationFrame(() => {
      this.waiting = false
      this.drawNow()
    })
  }

  private drawNow(): void {
    this.renderer.render(this.scene, this.camera)
    this.onDrawn()
  }

  /** A picture of what is shown, as the data of a PNG. */
  picture(): string {
    this.drawNow()
    return this.renderer.domElement.toDataURL('image/png')
  }
}

function turning(point: readonly number[], axis: readonly number[], degrees: number): Matrix4 {
  const [x = 0, y = 0, z = 0] = point
  const turn = new Matrix4().makeRotationAxis(new Vector3(axis[0], axis[1], axis[2]).normalize(), (degrees * Math.PI) / 180)
  return new Matrix4().makeTranslation(x, y, z).multiply(turn).multiply(new Matrix4().makeTranslation(-x, -y, -z))
}

function solid(mesh: DryFit['meshes'][number]): { face: BufferGeometry; edges: EdgesGeometry } {
  const joined = new BufferGeometry()
  joined.setAttribute('position', new BufferAttribute(new Float32Array(mesh.corners), 3))
  joined.setIndex(mesh.triangles)
  const face = joined.toNonIndexed()
  face.computeVertexNormals()
  return { face, edges: new EdgesGeometry(joined, 25) }
}

/** A context without transparency, which costs nothing to lay over the page. */
function opaque(canvas: HTMLCanvasElement): WebGL2RenderingContext {
  const context = canvas.getContext('webgl2', { alpha: false, antialias: false, stencil: false })
  if (!context) throw new Error(CANNOT_DRAW)
  return context
}
