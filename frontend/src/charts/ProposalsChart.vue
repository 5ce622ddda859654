<script setup lang="ts">
/** Hours against price: every build in question a faint dot, what nothing beats joined, the named ones lettered. */
import { computed } from 'vue'

import type { ProposalSearch } from '@/api/client'
import { duration } from '@/format'

const props = defineProps<{ search: ProposalSearch; chosen: number }>()
const emit = defineEmits<{ choose: [index: number] }>()

const WIDE = 780
const HIGH = 230
const LEFT = 46
const BOTTOM = 34
const mostHours = computed(() => Math.max(1, ...all.value.map((one) => one.hours)) * 1.04)
const mostPrice = computed(() => Math.max(1, ...all.value.map((one) => one.price)) * 1.06)
const all = computed(() => [
  ...props.search.dots,
  ...props.search.front.map((one) => ({ hours: one.hours.value, price: one.price })),
])
const x = (hours: number) => LEFT + (hours / mostHours.value) * (WIDE - LEFT - 10)
const y = (price: number) => HIGH - BOTTOM - (price / mostPrice.value) * (HIGH - BOTTOM - 12)
const ticks = (most: number) => {
  const step = [0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000].find((one) => most / one <= 6) ?? 5000
  return Array.from({ length: Math.floor(most / step) + 1 }, (_, index) => index * step)
}
/** Those that no other beats in these two alone; the rest of the front are best in what is not drawn. */
const line = computed(() =>
  props.search.front
    .filter((one) => !props.search.front.some((o) => o.price < one.price && o.hours.value >= one.hours.value))
    .sort((a, b) => a.hours.value - b.hours.value || a.price - b.price)
    .map((one) => `${x(one.hours.value).toFixed(1)},${y(one.price).toFixed(1)}`)
    .join(' '),
)
const letter = (index: number) => String.fromCharCode(65 + index)
const named = computed(() =>
  props.search.front.map((one, index) => ({ one, index })).filter(({ one }) => one.because),
)
</script>

<template>
  <svg
    class="w-full min-w-560 max-w-900"
    :viewBox="`0 0 ${WIDE} ${HIGH}`"
    role="img"
    aria-label="Hours of use against price of every build in question"
  >
    <g class="grid">
      <template v-for="hours in ticks(mostHours)" :key="`h${hours}`">
        <line :x1="x(hours)" :x2="x(hours)" :y1="10" :y2="HIGH - BOTTOM" />
        <text :x="x(hours)" :y="HIGH - BOTTOM + 14" text-anchor="middle">{{ duration(hours) }}</text>
      </template>
      <template v-for="price in ticks(mostPrice)" :key="`p${price}`">
        <line :x1="LEFT" :x2="WIDE - 10" :y1="y(price)" :y2="y(price)" />
        <text :x="LEFT - 6" :y="y(price) + 4" text-anchor="end">{{ price }}</text>
      </template>
    </g>
    <text :x="WIDE - 10" :y="HIGH - 4" text-anchor="end">hours of “{{ search.mode }}” on a charge</text>
    <text :x="4" :y="12">price</text>
    <circle
      v-for="(dot, index) in search.dots"
      :key="index"
      class="dot"
      :cx="x(dot.hours)"
      :cy="y(dot.price)"
      r="1.6"
    />
    <polyline :points="line" class="front" />
    <circle
      v-for="(one, index) in search.front"
      :key="`f${index}`"
      class="unbeaten"
      :cx="x(one.hours.value)"
      :cy="y(one.price)"
      r="2.6"
    />
    <g
      v-for="{ one, index } in named"
      :key="index"
      :class="['named', { chosen: index === chosen }]"
      @click="emit('choose', index)"
    >
      <circle :cx="x(one.hours.value)" :cy="y(one.price)" r="9" />
      <text :x="x(one.hours.value)" :y="y(one.price) + 4" text-anchor="middle">{{ letter(index) }}</text>
    </g>
  </svg>
</template>

<style scoped>
text {
  fill: var(--ink2);
  font: 11px var(--sans);
}
.grid line {
  stroke: var(--line);
}
.dot {
  fill: var(--copper);
  opacity: 0.35;
}
.unbeaten {
  fill: var(--copper);
}
.front {
  fill: none;
  stroke: var(--copper);
  stroke-width: 1.4;
}
.named {
  cursor: pointer;
}
.named circle {
  fill: var(--sheet);
  stroke: var(--copper);
  stroke-width: 1.8;
}
.named text {
  fill: var(--copper);
  font-weight: 700;
}
.named.chosen circle {
  fill: var(--copper);
}
.named.chosen text {
  fill: var(--oncopper);
}
</style>
