<script setup lang="ts">
/** A chart at a height of its own, spoken by its label. Drawn once it is nearly in sight, and the page around it stands
 * and can be used. */
import { promiseTimeout, useIntersectionObserver } from '@vueuse/core'
import { defineAsyncComponent, ref } from 'vue'

defineProps<{ option: Record<string, unknown>; label: string; height: number }>()

/** The library, and in a task of its own then the drawing. */
const VChart = defineAsyncComponent(async () => {
  const { VChart } = await import('./library')
  await promiseTimeout(0)
  return VChart
})
const AT_LAST_MS = 300
const NEARLY = '150px'
const box = ref<HTMLElement>()
const drawn = ref(false)
const { stop } = useIntersectionObserver(
  box,
  ([place]) => {
    if (!place?.isIntersecting) return
    stop()
    requestIdleCallback(() => (drawn.value = true), { timeout: AT_LAST_MS })
  },
  { rootMargin: NEARLY },
)
</script>

<template>
  <div ref="box" role="img" :aria-label="label" :style="{ height: `${height}px` }">
    <VChart v-if="drawn" :option="option" :update-options="{ notMerge: true, lazyUpdate: true }" autoresize />
  </div>
</template>
