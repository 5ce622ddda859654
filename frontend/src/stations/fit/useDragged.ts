/** Something moved, or drawn larger, by hand in one of the three views: it catches at walls and at what is there. */
import { unzoomed } from '@/composables/useTextSize'
import { ref } from 'vue'

import type { Axis, Point, View } from '@/stations/fit/useViewLayout'

/** What is dragged: a box, and whether all of it moves or only its far corner. */
export interface Dragged {
  what: string
  view: View
  low: number[]
  high: number[]
  corner: boolean
}

/** A box that is being drawn: from where the pointer went down to where it is, either way. */
export const NEW = 'new'
const STEP_MM = 0.5
const CATCHES_PX = 7

export function useDragged(
  mm: (pixels: number) => number,
  edges: (axis: Axis, but: string) => number[],
  done: (dragged: Dragged) => void,
) {
  const dragged = ref<Dragged>()
  let from: { x: number; y: number; low: Point; high: Point } | undefined

  function begin(
    event: PointerEvent,
    what: string,
    view: View,
    low: Point,
    high: Point,
    corner = false,
  ): void {
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
    from = { x: event.clientX, y: event.clientY, low, high }
    dragged.value = { what, view, low: [...low], high: [...high], corner }
  }

  function move(event: PointerEvent): void {
    if (!dragged.value || !from) return
    along(dragged.value, dragged.value.view.across, mm(unzoomed(event.clientX - from.x)))
    along(dragged.value, dragged.value.view.up, -mm(unzoomed(event.clientY - from.y)))
  }

  function along(now: Dragged, axis: Axis, by: number): void {
    const [low, high] = [from!.low[axis]!, from!.high[axis]!]
    if (now.what === NEW) {
      const to = placed(axis, low + by)
      now.low[axis] = Math.min(low, to)
      now.high[axis] = Math.max(low, to)
      return
    }
    if (now.corner) {
      now.high[axis] = Math.max(caught(axis, now.what, high + by) ?? stepped(high + by), low + STEP_MM)
      return
    }
    const atLow = caught(axis, now.what, low + by)
    const atHigh = caught(axis, now.what, high + by)
    const to = atLow ?? (atHigh === undefined ? stepped(low + by) : atHigh - (high - low))
    now.low[axis] = rounded(to)
    now.high[axis] = rounded(to + high - low)
  }

  /** Where a corner comes to lie: at an edge that is near, or on the half millimetre. */
  const placed = (axis: Axis, at: number) => caught(axis, NEW, at) ?? stepped(at)

  /** The nearest edge that is near enough to catch at. */
  function caught(axis: Axis, but: string, at: number): number | undefined {
    const near = edges(axis, but).filter((edge) => Math.abs(edge - at) < mm(CATCHES_PX))
    return near.sort((a, b) => Math.abs(a - at) - Math.abs(b - at))[0]
  }

  function end(): void {
    const now = dragged.value
    dragged.value = undefined
    const moved = (corner: Point, before: Point) => corner.some((at, axis) => at !== before[axis])
    if (now && from && (moved(now.low, from.low) || moved(now.high, from.high))) done(now)
    from = undefined
  }

  return { dragged, begin, move, end, placed }
}

const stepped = (at: number) => Math.round(at / STEP_MM) * STEP_MM
const rounded = (at: number) => Math.round(at * 100) / 100
