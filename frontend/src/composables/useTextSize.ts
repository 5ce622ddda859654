/** How large everything is written here, in percent: beside the browser's own zoom, for this app alone. */
import { createSharedComposable, useLocalStorage } from '@vueuse/core'
import { watch } from 'vue'

export const TEXT_SIZES = [90, 100, 110, 120] as const
export type TextSize = (typeof TEXT_SIZES)[number]

export const useTextSize = createSharedComposable(() => {
  const size = useLocalStorage<TextSize>('pocket-spark-text', 100)
  watch(size, (now) => document.documentElement.style.setProperty('zoom', now === 100 ? '' : `${now}%`), {
    immediate: true,
  })
  return size
})

/** What is measured on screen in the lengths of the page's own styles. */
export const unzoomed = (px: number): number => px / (document.documentElement.currentCSSZoom ?? 1)
