<script setup lang="ts">
/** The first tenth of a second: volts at the gadget above, amperes out of the cell below, for three cells. */
import { computed, ref } from 'vue'

import type { StartUp } from '@/api/client'
import { useWidth } from '@/drawings/useWidth'

const props = defineProps<{ start: StartUp }>()

const box = ref<HTMLElement>()
const measured = useWidth(box)
const width = computed(() => Math.max(measured.value, 280))
const LEFT = 46
const TOPS = [14, 118] as const
const HIGH = 84
const TICKS_MS = computed(() => (width.value < 420 ? [0, 5, 25, 50, 100] : [0, 1, 5, 10, 25, 50, 100]))
/** The beginning is drawn wider: by the root of the time. */
const x = (ms: number) => LEFT + (width.value - LEFT - 8) * Math.sqrt(ms / 100)
const rounded = (most: number) => {
  const size = 10 ** Math.floor(Math.log10(most || 1))
  return [1, 1.5, 2, 3, 4, 5, 6, 8, 10].map((one) => one * size).find((one) => one >= most * 1.02)!
}
const most = computed(
  () =>
    [
      rounded(Math.max(...props.start.curves.flatMap((one) => one.gadget_v), props.start.needs.value)),
      rounded(Math.max(...props.start.curves.flatMap((one) => one.cell_a), 1e-6)),
    ] as const,
)
const points = (values: number[], strip: 0 | 1) =>
  props.start.time_ms
    .map(
      (ms, n) =>
        `${x(ms).toFixed(1)},${(TOPS[strip] + HIGH * (1 - values[n]! / most.value[strip])).toFixed(1)}`,
    )
    .join(' ')
const needsY = computed(() => TOPS[0] + HIGH * (1 - props.start.needs.value / most.value[0]))
const amps = (value: number) =>
  value < 1 ? `${+(value * 1000).toPrecision(2)} mA` : `${+value.toPrecision(2)} A`
</script>

<template>
  <figure ref="box" class="m-0">
    <svg
      :viewBox="`0 0 ${width} 226`"
      class="block w-full"
      role="img"
      aria-label="The first tenth of a second"
    >
      <g v-for="(top, strip) in TOPS" :key="top">
        <line :x1="LEFT" :x2="width - 8" :y1="top + HIGH" :y2="top + HIGH" class="axis" />
        <text :x="LEFT - 6" :y="top + 5" class="end">{{ strip ? amps(most[1]) : `${most[0]} V` }}</text>
        <text :x="LEFT - 6" :y="top + HIGH + 3" class="end">0</text>
        <line
          v-for="ms in TICKS_MS"
          :key="ms"
          :x1="x(ms)"
          :x2="x(ms)"
          :y1="top"
          :y2="top + HIGH"
          class="grid"
        />
      </g>
      <line :x1="LEFT" :x2="width - 8" :y1="needsY" :y2="needsY" class="needs" />
      <text :x="width - 10" :y="needsY - 4" class="end">needs {{ start.needs.text }}</text>
      <template v-for="(curve, n) in start.curves" :key="curve.label">
        <polyline :points="points(curve.gadget_v, 0)" :class="`curve c${n}`" />
        <polyline :points="points(curve.cell_a, 1)" :class="`curve c${n}`" />
      </template>
      <text v-for="ms in TICKS_MS" :key="ms" :x="x(ms)" y="220" :class="ms === 100 ? 'end' : 'middle'">
        {{ ms ? `${ms} ms` : '0' }}
      </text>
    </svg>
    <figcaption class="flex flex-wrap gap-y-2 gap-x-18 text-small">
      <span v-for="(curve, n) in start.curves" :key="curve.label" class="whitespace-nowrap">
        <svg width="26" height="8" aria-hidden="true"><path d="M0 4H26" :class="`curve c${n}`" /></svg>
        {{ curve.label }}
      </span>
      <span class="quiet">volts at the gadget above, current out of the cell below</span>
    </figcaption>
  </figure>
</template>

<style scoped>
text {
  fill: var(--ink2);
  font-size: 11px;
}
.end {
  text-anchor: end;
}
.middle {
  text-anchor: middle;
}
.axis {
  stroke: var(--ink3);
}
.grid {
  stroke: var(--line);
  stroke-width: 0.6;
}
.needs {
  stroke: var(--pass);
  stroke-dasharray: 5 3;
}
.curve {
  fill: none;
  stroke-width: 1.8;
}
.c0 {
  stroke: var(--copper);
}
.c1 {
  stroke: var(--ink2);
  stroke-dasharray: 6 3;
}
.c2 {
  stroke: var(--note);
  stroke-dasharray: 2 2;
}
</style>
