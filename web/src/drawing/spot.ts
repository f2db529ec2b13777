/** A place on a drawing (mm) or on the screen (px). */
export interface Spot {
  x: number
  y: number
}
