<script setup lang="ts">
/** What was read at several volts, and the laws that go through it: the best in full, its rivals in dashes. */
import { computed, ref } from 'vue'

import type { LawsOfReadings } from '@/api/client'
import { useWidth } from '@/drawings/useWidth'

const props = defineProps<{ laws: LawsOfReadings }>()

const box = ref<HTMLElement>()
const measured = useWidth(box)
const width = computed(() => Math.max(measured.value, 240))
const LEFT = 52
const TOP = 10
const HIGH = 120
const span = computed(() => {
  const all = [
    ...props.laws.curves.flatMap((one) => one.volts),
    ...props.laws.points.map((one) => one.volts.value),
  ]
  return [Math.floor(Math.min(...all) * 2) / 2, Math.ceil(Math.max(...all) * 2) / 2] as const
})
const most = computed(() =>
  Math.max(
    ...props.laws.points.map((one) => one.current_a.value * 1.15),
    ...props.laws.curves.flatMap((one) => one.current_a),
  ),
)
const x = (volts: number) =>
  LEFT + ((width.value - LEFT - 12) * (volts - span.value[0])) / (span.value[1] - span.value[0] || 1)
const y = (amps: number) => TOP + HIGH * (1 - amps / (most.value || 1))
const ticks = computed(() => {
  const [low, high] = span.value
  const step = high - low > 4 ? 1 : 0.5
  return Array.from({ length: Math.floor((high - low) / step) + 1 }, (_, n) => low + n * step)
})
const highest = computed(() => props.laws.points.at(-1))
</script>

<template>
  <figure ref="box" class="m-0">
    <svg :viewBox="`0 0 ${width} 158`" class="block w-full" role="img" :aria-label="laws.headline">
      <line :x1="LEFT" :x2="width - 12" :y1="TOP + HIGH" :y2="TOP + HIGH" class="axis" />
      <g v-for="at in ticks" :key="at">
        <line :x1="x(at)" :x2="x(at)" :y1="TOP" :y2="TOP + HIGH" class="grid" />
        <text :x="x(at)" y="148" class="middle">{{ at }} V</text>
      </g>
      <text :x="LEFT - 6" :y="TOP + HIGH + 4" class="end">0</text>
      <text v-if="highest" :x="LEFT - 6" :y="y(highest.current_a.value) + 4" class="end">
        {{ highest.current_a.text }}
      </text>
      <polyline
        v-for="curve in laws.curves"
        :key="curve.key"
        :points="
          curve.volts.map((at, n) => `${x(at).toFixed(1)},${y(curve.current_a[n]!).toFixed(1)}`).join(' ')
        "
        :class="['curve', { best: curve.is_best }]"
      />
      <circle
        v-for="(point, n) in laws.points"
        :key="n"
        :cx="x(point.volts.value)"
        :cy="y(point.current_a.value)"
        r="3.4"
      />
    </svg>
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
.curve {
  fill: none;
  stroke: var(--ink2);
  stroke-dasharray: 4 4;
  stroke-width: 1.4;
}
.curve.best {
  stroke: var(--copper);
  stroke-dasharray: none;
  stroke-width: 2;
}
circle {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.6;
}
</style>
