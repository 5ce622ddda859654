/** Where the three views of a bay lie beside each other, and where a place in the bay is drawn in each, in pixels. */
import { computed, type Ref, type UnwrapNestedRefs } from 'vue'

import type { FitAnswer } from '@/api/client'
import { t } from '@/words'

export type Axis = 0 | 1 | 2
export type Point = readonly number[]

export interface View {
  key: 'top' | 'front' | 'side'
  title: string
  /** The bay's axis that runs to the right, the one that runs up, and the one that is looked along. */
  across: Axis
  up: Axis
  away: Axis
  x: number
  y: number
}

const MARGIN = 62
const BETWEEN = 58
const CORNER_LEAST_PX = 240

/** `corner`: how high what stands to the right of the view from above is; the side view begins below it. */
export function useViewLayout(answer: () => FitAnswer, width: Ref<number>, corner: Ref<number>) {
  const wall = computed(() => answer().wall_mm)
  const size = computed(() => answer().size_mm as Point)
  const narrow = computed(() => width.value < 420)

  /** Pixels for a millimetre, so that front and side stand beside each other. */
  const scale = computed(() => {
    const [x, y, z] = size.value as [number, number, number]
    const walls = 2 * wall.value
    const wide = narrow.value ? x + walls : x + y + 2 * walls
    const room = width.value - MARGIN - 14 - (narrow.value ? 0 : BETWEEN)
    return Math.max(Math.min(room / wide, 340 / (y + z + 2 * walls), 8), 0.4)
  })

  /** Where the side view begins, beside the one from the front. */
  const besideX = computed(() => MARGIN + (size.value[0]! + 2 * wall.value) * scale.value + BETWEEN)
  /** Right of the view from above there is room for words, where the bay is no long one. */
  const hasCorner = computed(() => !narrow.value && width.value - besideX.value > CORNER_LEAST_PX)

  const views = computed<View[]>(() => {
    const [, y, z] = size.value as [number, number, number]
    const s = scale.value
    const w2 = 2 * wall.value * s
    const words = hasCorner.value ? corner.value + 44 : 0
    const second = Math.max(24 + y * s + w2 + BETWEEN, words)
    const under = { x: MARGIN, y: second + z * s + w2 + BETWEEN }
    const side = narrow.value ? under : { x: besideX.value, y: second }
    return [
      { key: 'top', title: t('from above'), across: 0, up: 1, away: 2, x: MARGIN, y: 24 },
      { key: 'front', title: t('from the front'), across: 0, up: 2, away: 1, x: MARGIN, y: second },
      { key: 'side', title: t('from the left'), across: 1, up: 2, away: 0, ...side },
    ]
  })

  const height = computed(() => {
    const last = views.value[2]!
    return last.y + (size.value[2]! + 2 * wall.value) * scale.value + 44
  })

  const px = (view: View, mm: number) => view.x + (mm + wall.value) * scale.value
  const py = (view: View, mm: number) => view.y + (size.value[view.up]! - mm + wall.value) * scale.value
  /** And back: how many millimetres so many pixels are. */
  const mm = (pixels: number) => pixels / scale.value

  function rect(view: View, low: Point, high: Point) {
    return {
      x: px(view, low[view.across]!),
      y: py(view, high[view.up]!),
      width: Math.max((high[view.across]! - low[view.across]!) * scale.value, 0),
      height: Math.max((high[view.up]! - low[view.up]!) * scale.value, 0),
    }
  }

  return { hasCorner, wall, size, scale, views, height, px, py, mm, rect }
}

export type ViewLayout = UnwrapNestedRefs<ReturnType<typeof useViewLayout>>
