<script setup lang="ts">
/** Hours against price, or against room to spare: every build in question a faint dot, what nothing beats joined, the named ones lettered. */
import { computed } from 'vue'

import type { Proposal, ProposalSearch } from '@/api/client'
import { duration } from '@/format'

const props = defineProps<{ search: ProposalSearch; chosen: number; against: 'price' | 'room' }>()
const emit = defineEmits<{ choose: [index: number] }>()

const WIDE = 780
const HIGH = 230
const LEFT = 46
const BOTTOM = 34
const mostHours = computed(() => Math.max(1, ...all.value.map((one) => one.hours)) * 1.04)
const most = computed(() => Math.max(1, ...all.value.map((one) => one.up)) * 1.06)
/** Price: the lower the better. Room: the more the better; nobody knows that of the others before they are placed. */
const upOf = (one: Proposal) => (props.against === 'price' ? one.price : (one.spare_mm?.value ?? 0))
const dots = computed(() =>
  props.against === 'price' ? props.search.dots.map((dot) => ({ hours: dot.hours, up: dot.price })) : [],
)
const all = computed(() => [
  ...dots.value,
  ...props.search.front.map((one) => ({ hours: one.hours.value, up: upOf(one) })),
])
const x = (hours: number) => LEFT + (hours / mostHours.value) * (WIDE - LEFT - 10)
const y = (up: number) => HIGH - BOTTOM - (up / most.value) * (HIGH - BOTTOM - 12)
const ticks = (most: number) => {
  const step = [0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000].find((one) => most / one <= 6) ?? 5000
  return Array.from({ length: Math.floor(most / step) + 1 }, (_, index) => index * step)
}
const better = (o: Proposal, one: Proposal) =>
  props.against === 'price' ? upOf(o) < upOf(one) : upOf(o) > upOf(one)
/** Those that no other beats in these two alone; the rest of the front are best in what is not drawn. */
const line = computed(() =>
  props.search.front
    .filter((one) => !props.search.front.some((o) => better(o, one) && o.hours.value >= one.hours.value))
    .sort((a, b) => a.hours.value - b.hours.value || upOf(a) - upOf(b))
    .map((one) => `${x(one.hours.value).toFixed(1)},${y(upOf(one)).toFixed(1)}`)
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
    :aria-label="`Hours of use against ${against} of every build in question`"
  >
    <g class="grid">
      <template v-for="hours in ticks(mostHours)" :key="`h${hours}`">
        <line :x1="x(hours)" :x2="x(hours)" :y1="10" :y2="HIGH - BOTTOM" />
        <text :x="x(hours)" :y="HIGH - BOTTOM + 14" text-anchor="middle">{{ duration(hours) }}</text>
      </template>
      <template v-for="up in ticks(most)" :key="`p${up}`">
        <line :x1="LEFT" :x2="WIDE - 10" :y1="y(up)" :y2="y(up)" />
        <text :x="LEFT - 6" :y="y(up) + 4" text-anchor="end">{{ up }}</text>
      </template>
    </g>
    <text :x="WIDE - 10" :y="HIGH - 4" text-anchor="end">hours of “{{ search.mode }}” on a charge</text>
    <text :x="LEFT + 6" :y="12">{{ against === 'price' ? 'price' : 'mm to spare' }}</text>
    <circle
      v-for="(dot, index) in dots"
      :key="index"
      class="dot"
      :cx="x(dot.hours)"
      :cy="y(dot.up)"
      r="1.6"
    />
    <polyline :points="line" class="front" />
    <circle
      v-for="(one, index) in search.front"
      :key="`f${index}`"
      class="unbeaten"
      :cx="x(one.hours.value)"
      :cy="y(upOf(one))"
      r="2.6"
    />
    <g
      v-for="{ one, index } in named"
      :key="index"
      :class="['named', { chosen: index === chosen }]"
      @click="emit('choose', index)"
    >
      <circle :cx="x(one.hours.value)" :cy="y(upOf(one))" r="9" />
      <text :x="x(one.hours.value)" :y="y(upOf(one)) + 4" text-anchor="middle">{{ letter(index) }}</text>
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
