/** Marking on a picture by keys alone: arrows move a cross, finely with Shift, Enter or Space presses where it is. */
import { ref } from 'vue'

type Place = { x: number; y: number }

const STEP = 0.02
const FINE = 0.002
const WAYS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

export function useCrosshair(press: (at: Place) => void) {
  /** In shares of the picture's width and height; undefined while nobody marks by keys. */
  const cross = ref<Place>()
  const within = (share: number) => Math.min(Math.max(share, 0), 1)

  function key(event: KeyboardEvent): void {
    const at = cross.value ?? { x: 0.5, y: 0.5 }
    const way = WAYS[event.key]
    if (way) {
      const step = event.shiftKey ? FINE : STEP
      cross.value = { x: within(at.x + way[0] * step), y: within(at.y + way[1] * step) }
    } else if (event.key === 'Enter' || event.key === ' ') {
      cross.value = at
      press(at)
    } else return
    event.preventDefault()
    event.stopPropagation()
  }

  return { cross, key, leave: () => (cross.value = undefined) }
}
