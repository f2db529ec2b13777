import type { Unit } from '../api/client'
import { spanLabels, type Label } from '../dryfit/labels'
import { AssemblyScene, VIEWS, type DryFit } from '../dryfit/scene'

/** Size of a plate on the screen, in pixels. */
export const PLATE = { width: 380, height: 250 }

/** A drawing in space as a picture, with the sizes that stand over it. */
export interface Plate {
  picture: string
  labels: Label[]
}

/** Draws one plate after the other in a scene that nobody sees. */
export class PlatePress {
  private scene: AssemblyScene | null = null

  /** Null where the browser cannot draw in space. */
  plate(fit: DryFit, tints: Record<string, string>, unit: Unit): Plate | null {
    try {
      this.scene ??= new AssemblyScene(document.createElement('canvas'))
    } catch {
      return null
    }
    this.scene.resize(PLATE.width, PLATE.height)
    this.scene.take(fit, tints)
    this.scene.look(VIEWS.Corner)
    // So small, a plate has room for the outside sizes only.
    return { picture: this.scene.picture(), labels: spanLabels(this.scene, { ...fit, inner: [] }, unit) }
  }

  dispose(): void {
    this.scene?.dispose()
  }
}
