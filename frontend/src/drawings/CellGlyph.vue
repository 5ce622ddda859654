<script setup lang="ts">
/** A cell lying on the bench, to scale: length across, width or diameter up, with its tabs and fold. */
import { computed } from 'vue'

import type { Draft, Part } from '@/api/client'
import { numbersOf } from '@/document'

const props = defineProps<{ cell: Draft<NonNullable<Part['cell']>>; scale: number; chosen?: boolean }>()
const TAB = 4

const dims = computed(() => {
  const size = numbersOf(props.cell.size_mm)
  if (!size) return { long: 40 * props.scale, wide: 25 * props.scale }
  const [a, b, c] = size
  return props.cell.form === 'round'
    ? { long: b! * props.scale, wide: a! * props.scale }
    : { long: c! * props.scale, wide: b! * props.scale }
})
</script>

<template>
  <svg
    :class="['cell', { chosen }]"
    :width="dims.long + TAB * 2 + 2"
    :height="dims.wide + 2"
    :viewBox="`-1 -1 ${dims.long + TAB * 2 + 2} ${dims.wide + 2}`"
    aria-hidden="true"
  >
    <template v-if="cell.form === 'round'">
      <rect :x="dims.long" :y="dims.wide * 0.32" :width="TAB * 0.7" :height="dims.wide * 0.36" class="tab" />
      <rect :width="dims.long" :height="dims.wide" rx="1.5" />
      <path :d="`M${dims.long * 0.94} 0V${dims.wide}`" />
    </template>
    <template v-else>
      <path
        :d="`M${dims.long} ${dims.wide * 0.25}h${TAB * 1.6}M${dims.long} ${dims.wide * 0.75}h${TAB * 1.6}`"
        class="lead"
      />
      <rect :width="dims.long" :height="dims.wide" :rx="cell.form === 'pouch' ? 2 : 0.5" />
      <path v-if="cell.form === 'pouch'" :d="`M${dims.long - TAB} 0V${dims.wide}`" class="fold" />
    </template>
  </svg>
</template>

<style scoped>
.cell {
  display: block;
  fill: var(--sheet);
  stroke: var(--ink3);
  stroke-width: 1.1;
}
.chosen {
  fill: var(--copperwash);
  stroke: var(--copper);
  stroke-width: 1.6;
}
.tab {
  fill: var(--ink3);
  stroke: none;
}
.lead {
  stroke: var(--ink2);
  stroke-width: 1.6;
}
.fold {
  stroke-dasharray: 2 2;
}
</style>
