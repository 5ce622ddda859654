<script setup lang="ts">
/** A chart at a height of its own, spoken by its label. */
import VChart from 'vue-echarts'

import './chart'

defineProps<{ option: Record<string, unknown>; label: string; height: number }>()
</script>

<template>
  <VChart
    :option="option"
    :update-options="{ notMerge: true }"
    :style="{ height: `${height}px` }"
    autoresize
    role="img"
    :aria-label="label"
  />
</template>
