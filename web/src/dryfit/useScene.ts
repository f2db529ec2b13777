import { useElementSize } from '@vueuse/core'
import { onBeforeUnmount, onMounted, ref, watch, type Ref } from 'vue'

import { AssemblyScene, CANNOT_DRAW } from './scene'

/** A scene on a canvas that fills a frame, as long as its component is there; `begun` is called once it can be drawn on. */
export function useScene(frame: Ref<HTMLElement | null>, canvas: Ref<HTMLCanvasElement | null>, begun: (scene: AssemblyScene) => void) {
  const { width, height } = useElementSize(frame)
  const trouble = ref('')
  /** Grows with each drawing, so that labels can follow. */
  const drawn = ref(0)
  let scene: AssemblyScene | null = null

  onMounted(() => {
    if (!canvas.value) return
    try {
      scene = new AssemblyScene(canvas.value)
    } catch {
      trouble.value = CANNOT_DRAW
      return
    }
    scene.onDrawn = () => { drawn.value++ }
    scene.resize(width.value, height.value)
    begun(scene)
  })
  onBeforeUnmount(() => scene?.dispose())
  watch([width, height], () => scene?.resize(width.value, height.value))

  /** Turns and zooms by keys; tells whether the key was one of these. */
  function turnBy(event: KeyboardEvent): boolean {
    const turns: Record<string, [number, number]> = { ArrowLeft: [-10, 0], ArrowRight: [10, 0], ArrowUp: [0, 8], ArrowDown: [0, -8] }
    const turn = turns[event.key]
    if (turn) scene?.turn(...turn)
    else if (event.key === '+' || event.key === '=') scene?.zoom(1.25)
    else if (event.key === '-') scene?.zoom(0.8)
    else return false
    event.preventDefault()
    event.stopPropagation()
    return true
  }

  return { width, height, trouble, drawn, turnBy }
}
