<script setup lang="ts">
/** A bay from above with its parts where they lie, small: what sets one line of the shelf apart at a glance. */
import type { Summary } from '@/api/client'

defineProps<{ picture: Summary['picture'] }>()
</script>

<template>
  <svg
    v-if="picture"
    class="thumb w-64 h-38"
    :viewBox="`-1 -1 ${picture.size_mm[0]! + 2} ${picture.size_mm[1]! + 2}`"
  >
    <rect
      class="bay"
      :width="picture.size_mm[0]!"
      :height="picture.size_mm[1]!"
      :rx="picture.tube ? picture.size_mm[1]! / 2 : 1"
    />
    <rect
      v-for="(part, index) in picture.parts"
      :key="index"
      :class="part.kind"
      :x="part.min_mm[0]!"
      :y="picture.size_mm[1]! - part.max_mm[1]!"
      :width="part.max_mm[0]! - part.min_mm[0]!"
      :height="part.max_mm[1]! - part.min_mm[1]!"
      rx="0.8"
    />
  </svg>
  <svg v-else class="thumb w-64 h-38" viewBox="0 0 60 32">
    <rect class="bay unknown" x="1" y="1" width="58" height="30" rx="1" />
  </svg>
</template>

<style scoped>
.thumb rect {
  fill: var(--copperwash);
  stroke: var(--ink2);
  vector-effect: non-scaling-stroke;
}
.thumb .bay {
  fill: none;
  stroke: var(--line2);
}
.thumb .unknown {
  stroke-dasharray: 4 3;
}
.thumb .cell {
  fill: var(--lithium);
}
</style>
