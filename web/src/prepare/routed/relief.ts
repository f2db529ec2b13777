import type { Moves } from '../player'

/** The most cells of the field, and how many of them a cutter is wide at least where there are enough. */
const MOST = 1_600_000
const ACROSS = 9

/** How far (cells) a cutter goes between two places at which it is pressed into the field. */
const STEP = 0.7

/**
 * The sheet as a field of heights, cut away move by move as far as it is played. It only draws: what a piece measures
 * is told by the proof.
 */
export class Relief {
  readonly columns: number
  readonly rows: number
  readonly cell: number
  readonly heights: Float32Array
  /** What has changed since it was drawn: the first and the last row. */
  changed: [number, number] | null
  private done = 0
  private share = 0

  constructor(
    private readonly moves: Moves,
    readonly left: number,
    readonly bottom: number,
    readonly width: number,
    readonly height: number,
    readonly thickness: number,
  ) {
    const narrowest = Math.min(...moves.wide.filter((wide) => wide > 0), 12)
    this.cell = Math.max(narrowest / ACROSS, Math.sqrt((width * height) / MOST))
    this.columns = Math.max(2, Math.ceil(width / this.cell))
    this.rows = Math.max(2, Math.ceil(height / this.cell))
    this.heights = new Float32Array(this.columns * this.rows)
    this.changed = [0, this.rows - 1]
  }

  /** Cuts as far as a move and a share of it; what was cut beyond that is whole again. */
  to(move: number, share: number): void {
    if (move < this.done || (move === this.done && share < this.share)) {
      this.heights.fill(0)
      this.changed = [0, this.rows - 1]
      this.done = this.share = 0
    }
    for (; this.done < move; this.done++, this.share = 0) this.cut(this.done, this.share, 1)
    this.cut(move, this.share, share)
    this.share = share
  }

  private cut(move: number, from: number, to: number): void {
    const { x, y, z, wide, turn } = this.moves
    const [x0, y0, z0] = move ? [x[move - 1] ?? 0, y[move - 1] ?? 0, z[move - 1] ?? 0] : [x[0] ?? 0, y[0] ?? 0, z[0] ?? 0]
    const [x1, y1, z1] = [x[move] ?? 0, y[move] ?? 0, z[move] ?? 0]
    if (Math.min(z0, z1) >= 0 || to <= from) return
    const radius = (wide[move] ?? 0) / 2
    const arc = turn[move] ? this.arc(move, x0, y0, x1, y1) : null
    const long = arc ? Math.abs(arc.sweep) * arc.radius : Math.hypot(x1 - x0, y1 - y0)
    const steps = Math.max(1, Math.ceil(((to - from) * long) / (STEP * this.cell)))
    for (let step = 0; step <= steps; step++) {
      const share = from + ((to - from) * step) / steps
      const height = z0 + (z1 - z0) * share
      if (height >= 0) continue
      const px = arc ? arc.x + arc.radius * Math.cos(arc.from + arc.sweep * share) : x0 + (x1 - x0) * share
      const py = arc ? arc.y + arc.radius * Math.sin(arc.from + arc.sweep * share) : y0 + (y1 - y0) * share
      this.press((px - this.left) / this.cell, (py - this.bottom) / this.cell, radius / this.cell, Math.max(height, -this.thickness))
    }
  }

  private arc(move: number, x0: number, y0: number, x1: number, y1: number): { x: number; y: number; radius: number; from: number; sweep: number } {
    const [x, y] = [this.moves.centre_x[move] ?? 0, this.moves.centre_y[move] ?? 0]
    const from = Math.atan2(y0 - y, x0 - x)
    let sweep = Math.atan2(y1 - y, x1 - x) - from
    const ccw = (this.moves.turn[move] ?? 0) > 0
    if (ccw && sweep <= 1e-9) sweep += 2 * Math.PI
    if (!ccw && sweep >= -1e-9) sweep -= 2 * Math.PI
    return { x, y, radius: Math.hypot(x0 - x, y0 - y), from, sweep }
  }

  /** Presses a round flat cutter into the field. */
  private press(x: number, y: number, radius: number, height: number): void {
    const first = Math.max(0, Math.ceil(y - radius))
    const last = Math.min(this.rows - 1, Math.floor(y + radius))
    for (let row = first; row <= last; row++) {
      const up = row - y
      const half = Math.sqrt(Math.max(0, radius * radius - up * up))
      const end = Math.min(this.columns - 1, Math.floor(x + half))
      const base = row * this.columns
      for (let column = Math.max(0, Math.ceil(x - half)); column <= end; column++) {
        if ((this.heights[base + column] ?? 0) > height) this.heights[base + column] = height
      }
    }
    if (last < first) return
    this.changed = this.changed ? [Math.min(this.changed[0], first), Math.max(this.changed[1], last)] : [first, last]
  }
}
