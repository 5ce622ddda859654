<script setup lang="ts">
/** A chart at a height of its own, spoken by its label. Drawn once the page around it stands and can be used. */
import { defineAsyncComponent, onMounted, ref } from 'vue'

defineProps<{ option: Record<string, unknown>; label: string; height: number }>()

const VChart = defineAsyncComponent(async () => (await import('./library')).VChart)
const AT_LAST_MS = 300
const drawn = ref(false)
onMounted(() => requestIdleCallback(() => (drawn.value = true), { timeout: AT_LAST_MS }))
</script>

<template>
  <div :style="{ height: `${height}px` }">
    <VChart
      v-if="drawn"
      :option="option"
      :update-options="{ notMerge: true }"
      autoresize
      role="img"
      :aria-label="label"
    />
  </div>
</template>
