import {
  CylinderGeometry, DataTexture, FloatType, LinearFilter, Mesh, MeshBasicMaterial, NearestFilter, OrthographicCamera, PlaneGeometry,
  RedFormat, Scene, ShaderMaterial, Vector2, Vector3, WebGLRenderer,
} from 'three'
import { OrbitControls } from 'three/addons/controls/OrbitControls.js'

import type { Relief } from './relief'

const GROUND = 0xf5f0e6

/** Drawn pixels to each of the screen's, at rest and while it moves. */
const SHARP = 1
const COARSE = 0.55

const VERTEX = /* glsl */ `
  varying vec3 at;
  void main() {
    at = position;
    gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
  }`

/**
 * The sheet is one flat face. Each of its points looks along the line of sight into the field of heights until that is
 * met: so walls stand upright, and nothing is drawn but what is seen. Light comes from the left, and from above.
 */
const FRAGMENT = /* glsl */ `
  precision highp float;
  varying vec3 at;
  uniform sampler2D heights;
  uniform vec2 size;
  uniform vec2 cells;
  uniform float thick;
  uniform float steps;
  uniform vec3 sight;
  uniform vec3 tint;
  uniform vec3 board;

  float deep(vec2 place) { return texture2D(heights, place / size).r; }

  void main() {
    vec2 across = sight.xy / max(-sight.z, 0.08);
    vec2 place = at.xy;
    float here = 0.0;
    float there = deep(place);
    bool wall = false;
    if (there < -0.001) {
      float fall = thick / steps;
      for (float step = 1.0; step <= 64.0; step += 1.0) {
        if (step > steps) break;
        here = -fall * step;
        vec2 next = at.xy + across * (-here);
        float floor_ = deep(next);
        if (floor_ >= here) {
          wall = floor_ > here + fall * 1.2;
          place = next;
          there = wall ? here : floor_;
          break;
        }
        place = next;
        there = floor_;
      }
    }
    bool off = place.x < 0.0 || place.y < 0.0 || place.x > size.x || place.y > size.y;
    vec2 cell = size / cells;
    float slope_x = deep(place + vec2(cell.x, 0.0)) - deep(place - vec2(cell.x, 0.0));
    float slope_y = deep(place + vec2(0.0, cell.y)) - deep(place - vec2(0.0, cell.y));
    vec3 normal = normalize(vec3(-slope_x, slope_y, 2.2 * cell.x));
    float light = 0.62 + 0.38 * clamp(dot(normal, normalize(vec3(-0.5, -0.4, 0.8))), 0.0, 1.0);
    float down = clamp(-there / thick, 0.0, 1.0);
    vec3 colour = there <= -thick + 0.02 ? board : tint * (1.0 - 0.38 * down);
    if (wall) colour = tint * 0.52;
    if (off) colour = board;
    gl_FragColor = vec4(colour * light, 1.0);
  }`

/** The sheet in space, as far as it has been cut, with the cutter over it. Nothing is drawn unless something changed. */
export class DepthScene {
  private readonly scene = new Scene()
  private readonly camera = new OrthographicCamera()
  private readonly renderer: WebGLRenderer
  private readonly controls: OrbitControls
  private readonly material: ShaderMaterial
  private readonly tool: Mesh
  private readonly shank: Mesh
  private texture: DataTexture | null = null
  private relief: Relief | null = null
  private sheet: Mesh | null = null
  private waiting = false
  private coarse = false
  private settling = 0
  private frame = { width: 1, height: 1 }
  /** Milliseconds that the last frames took, for whoever measures. */
  readonly took: number[] = []

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: false, alpha: false })
    this.renderer.setClearColor(GROUND)
    // The controls turn about what is up when they are made.
    this.camera.up.set(0, 0, 1)
    this.controls = new OrbitControls(this.camera, canvas)
    this.controls.maxPolarAngle = Math.PI / 2 - 0.12
    this.controls.addEventListener('change', () => this.moved())
    this.material = new ShaderMaterial({
      vertexShader: VERTEX,
      fragmentShader: FRAGMENT,
      uniforms: {
        heights: { value: null }, size: { value: new Vector2(1, 1) }, cells: { value: new Vector2(1, 1) }, thick: { value: 1 },
        steps: { value: 24 }, sight: { value: new Vector3(0, 0, -1) }, tint: { value: new Vector3(0.86, 0.74, 0.55) }, board: { value: new Vector3(0.78, 0.75, 0.69) },
      },
    })
    const look = new MeshBasicMaterial({ color: 0x4a4f57 })
    this.tool = new Mesh(new CylinderGeometry(0.5, 0.5, 1, 24).rotateX(Math.PI / 2).translate(0, 0, 0.5), look)
    this.shank = new Mesh(new CylinderGeometry(0.5, 0.5, 1, 24).rotateX(Math.PI / 2).translate(0, 0, 0.5), new MeshBasicMaterial({ color: 0x173f8f, transparent: true, opacity: 0.35 }))
    this.scene.add(this.tool, this.shank)
  }

  /** Another sheet. Its tint is that of its stock, as red, green and blue. */
  show(relief: Relief, tint: [number, number, number]): void {
    this.relief = relief
    this.texture?.dispose()
    this.texture = new DataTexture(relief.heights, relief.columns, relief.rows, RedFormat, FloatType)
    // A field of floats is not smoothed everywhere.
    const smooth = this.renderer.extensions.has('OES_texture_float_linear')
    this.texture.magFilter = this.texture.minFilter = smooth ? LinearFilter : NearestFilter
    this.texture.needsUpdate = true
    const { uniforms } = this.material
    const set = (name: string, value: unknown): void => { const one = uniforms[name]; if (one) one.value = value }
    set('heights', this.texture)
    set('size', new Vector2(relief.width, relief.height))
    set('cells', new Vector2(relief.columns, relief.rows))
    set('thick', relief.thickness)
    set('tint', new Vector3(...tint))
    if (this.sheet) this.scene.remove(this.sheet)
    this.sheet = new Mesh(new PlaneGeometry(relief.width, relief.height).translate(relief.width / 2, relief.height / 2, 0), this.material)
    this.sheet.frustumCulled = false
    this.scene.add(this.sheet)
    this.lookFrom([-0.12, -0.75, 0.95])
  }

  /** The cutter at a place of the sheet (mm), so wide; where it is out of sight it is not drawn. */
  cutter(x: number, y: number, z: number, wide: number): void {
    const { relief } = this
    if (!relief) return
    const long = Math.max(30, relief.thickness * 2.5)
    for (const [mesh, radius, height, from] of [[this.tool, wide, long, 0], [this.shank, wide * 2.4, long, long]] as const) {
      mesh.position.set(x - relief.left, y - relief.bottom, z + from)
      mesh.scale.set(radius, radius, height)
      mesh.visible = wide > 0
    }
    this.moved()
  }

  lookFrom(from: readonly [number, number, number]): void {
    const { relief } = this
    if (!relief) return
    const middle = new Vector3(relief.width / 2, relief.height / 2, 0)
    this.camera.position.copy(middle).addScaledVector(new Vector3(...from).normalize(), 4 * Math.max(relief.width, relief.height))
    this.controls.target.copy(middle)
    this.camera.lookAt(middle)
    this.camera.zoom = 1
    this.resize(this.frame.width, this.frame.height)
    this.controls.update()
  }

  resize(width: number, height: number): void {
    this.frame = { width, height }
    const { relief } = this
    if (!relief || width < 2 || height < 2) return
    // What is seen of the sheet's corners, with a little room about them.
    this.camera.updateMatrixWorld()
    const corners = [0, 1, 2, 3].map((at) => new Vector3(at % 2 ? relief.width : 0, at > 1 ? relief.height : 0, 0).applyMatrix4(this.camera.matrixWorldInverse))
    const across = Math.max(...corners.map(({ x }) => Math.abs(x)))
    const up = Math.max(...corners.map(({ y }) => Math.abs(y))) + relief.thickness
    const reach = Math.max(across / (width / 2 - 24), up / (height / 2 - 34))
    Object.assign(this.camera, { left: (-width / 2) * reach, right: (width / 2) * reach, top: (height / 2) * reach, bottom: (-height / 2) * reach, near: 0.1, far: 20 * Math.max(relief.width, relief.height) })
    this.camera.updateProjectionMatrix()
    this.moved()
  }

  /** Something moves: coarser until it rests. */
  private moved(): void {
    this.coarse = true
    clearTimeout(this.settling)
    this.settling = window.setTimeout(() => { this.coarse = false; this.ask() }, 180)
    this.ask()
  }

  private ask(): void {
    if (this.waiting) return
    this.waiting = true
    requestAnimationFrame(() => { this.waiting = false; this.draw() })
  }

  private draw(): void {
    const { relief, texture } = this
    if (!relief || !texture) return
    const began = performance.now()
    const ratio = this.coarse ? COARSE : SHARP
    if (this.renderer.getPixelRatio() !== ratio || this.renderer.domElement.clientWidth !== this.frame.width) this.renderer.setPixelRatio(ratio)
    this.renderer.setSize(this.frame.width, this.frame.height, false)
    if (relief.changed) {
      texture.needsUpdate = true
      relief.changed = null
    }
    const { sight, steps } = this.material.uniforms
    const line = new Vector3().subVectors(this.controls.target, this.camera.position).normalize()
    if (sight) sight.value = line
    // As many looks as cells lie between where the line of sight enters the sheet and where it leaves it.
    const cells = (relief.thickness * Math.hypot(line.x, line.y)) / Math.max(-line.z, 0.08) / relief.cell
    if (steps) steps.value = Math.min(this.coarse ? 20 : 56, Math.max(6, Math.ceil(cells * (this.coarse ? 1 : 2))))
    this.renderer.render(this.scene, this.camera)
    this.took.push(performance.now() - began)
    if (this.took.length > 120) this.took.shift()
  }

  dispose(): void {
    clearTimeout(this.settling)
    this.controls.dispose()
    this.texture?.dispose()
    this.material.dispose()
    this.renderer.dispose()
  }
}
