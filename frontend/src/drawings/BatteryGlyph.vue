<script setup lang="ts">
/** Batteries of one size at a scale given in px per mm: sticks and blocks standing, coins and buttons face on. */
import { computed } from 'vue'

import type { BatterySize } from '@/api/client'

const props = withDefaults(
  defineProps<{ battery: BatterySize; scale: number; count?: number; chosen?: boolean }>(),
  { count: 1 },
)

const GAP = 1.5
const round = computed(() => props.battery.form === 'coin' || props.battery.form === 'button')
const block = computed(() => props.battery.form === 'block')
const wide = computed(
  () => (block.value ? props.battery.size_mm[1]! : props.battery.size_mm[0]!) * props.scale,
)
const tall = computed(() => {
  const [first, second] = props.battery.size_mm
  return (round.value || block.value ? first! : second!) * props.scale
})
const drawn = computed(() => Math.min(props.count, 4))
const knob = 4
</script>

<template>
  <svg
    :class="['batteries', { chosen }]"
    :width="drawn * (wide + GAP) + 2"
    :height="tall + knob + 2"
    :viewBox="`-1 ${-knob - 1} ${drawn * (wide + GAP) + 2} ${tall + knob + 2}`"
    aria-hidden="true"
  >
    <g v-for="n in drawn" :key="n" :transform="`translate(${(n - 1) * (wide + GAP)} 0)`">
      <template v-if="round">
        <circle :cx="wide / 2" :cy="tall / 2" :r="wide / 2 - 0.5" />
        <path :d="`M${wide / 2 - 3} ${tall / 2}h6M${wide / 2} ${tall / 2 - 3}v6`" class="sign" />
      </template>
      <template v-else>
        <template v-if="block">
          <circle :cx="wide * 0.28" :cy="-knob / 2" :r="knob / 2" class="pole" />
          <rect :x="wide * 0.6" :y="-knob" :width="wide * 0.24" :height="knob" class="pole" />
        </template>
        <rect v-else :x="wide * 0.32" :y="-knob + 1" :width="wide * 0.36" :height="knob - 1" class="pole" />
        <rect x="0" y="0" :width="wide" :height="tall" rx="1.5" />
      </template>
    </g>
  </svg>
</template>

<style scoped>
.batteries {
  display: block;
  fill: var(--sheet);
  stroke: var(--line2);
  stroke-width: 1.2;
}
.pole {
  fill: var(--ink3);
  stroke: none;
}
.sign {
  stroke: var(--ink3);
}
.chosen {
  fill: var(--copperwash);
  stroke: var(--copper);
  stroke-width: 1.8;
}
</style>
