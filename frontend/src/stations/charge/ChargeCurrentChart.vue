<script setup lang="ts">
/**
 * Charge current over charge-current resistor, both logarithmic: the board's line with its tolerance, every limit as a level,
 * preferred values as ticks. Click or use the arrow keys to fit another value.
 */
import { computed, ref } from 'vue'

import type { ChargeSummary } from '@/api/client'
import { amps, plain } from '@/format'
import { useWidth } from '@/drawings/useWidth'

const props = defineProps<{ charge: ChargeSummary }>()
const emit = defineEmits<{ fit: [ohm: number] }>()

const box = ref<HTMLElement>()
const width = useWidth(box)

const HEIGHT = 226
const LEFT = 58
const LETTER = 7.2
const TOP = 8
const BOTTOM = 196
const LABEL_GAP = 15

const wordsOf = (limit: { label: string; current_a: number }) => `${limit.label} ${amps(limit.current_a)}`
/** Room for the longest name of a limit, in any language, but never more than the curve has. */
const right = computed(() => {
  const letters = Math.max(...props.charge.limits.map((limit) => wordsOf(limit).length))
  return Math.min(Math.max(148, 20 + LETTER * letters), Math.max(width.value * 0.45, 148))
})

const choices = computed(() => props.charge.choices)
const first = computed(() => choices.value[0]!)
const last = computed(() => choices.value[choices.value.length - 1]!)

const log = Math.log10
const x = (ohm: number) => {
  const share = (log(ohm) - log(first.value.r_ohm)) / (log(last.value.r_ohm) - log(first.value.r_ohm))
  return LEFT + share * Math.max(width.value - LEFT - right.value, 10)
}
const span = computed(() => {
  const levels = props.charge.limits.map((limit) => limit.current_a).filter((amps) => amps > 0)
  return {
    low: Math.min(last.value.least_a, ...levels) * 0.85,
    high: Math.max(first.value.most_a, ...levels) * 1.08,
  }
})
const y = (current: number) => {
  const { low, high } = span.value
  return BOTTOM - ((log(Math.max(current, low)) - log(low)) / (log(high) - log(low))) * (BOTTOM - TOP)
}

const points = (key: 'current_a' | 'least_a' | 'most_a') =>
  choices.value.map((c) => `${x(c.r_ohm)},${y(c[key])}`)
const line = computed(() => points('current_a').join(' '))
const tolerance = computed(() => [...points('most_a'), ...points('least_a').reverse()].join(' '))

const lowest = computed(() => props.charge.limits[0]!)

/** Labels of the limits, pushed apart where two lie close. */
const levels = computed(() => {
  const sorted = [...props.charge.limits].sort((a, b) => b.current_a - a.current_a)
  let above = -LABEL_GAP
  return sorted.map((limit) => {
    const at = y(limit.current_a)
    const label = Math.max(at + 4, above + LABEL_GAP, 11)
    above = label
    return { ...limit, at, label, words: wordsOf(limit) }
  })
})

const scale = computed(() => {
  const marks = [0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2]
  return marks.filter((mark) => mark > span.value.low && mark < span.value.high)
})

/** Only ticks with room for it are written out: round figures first. */
const named = computed(() => {
  const taken: number[] = [x(props.charge.r_prog_ohm.value)]
  const rank = (ohm: number) => (/^10*$/.test(String(ohm)) ? 0 : /^[25]0*$/.test(String(ohm)) ? 1 : 2)
  const order = [...choices.value].sort((a, b) => rank(a.r_ohm) - rank(b.r_ohm))
  return order.filter((choice) => {
    const at = x(choice.r_ohm)
    const free = taken.every((other) => Math.abs(other - at) > 46)
    if (free) taken.push(at)
    return free
  })
})

const kilo = (ohm: number) => (ohm >= 1000 ? `${plain(ohm / 1000)}k` : plain(ohm))

function nearest(event: MouseEvent): void {
  const at = event.offsetX
  const closest = choices.value.reduce((a, b) =>
    Math.abs(x(b.r_ohm) - at) < Math.abs(x(a.r_ohm) - at) ? b : a,
  )
  emit('fit', closest.r_ohm)
}

function step(by: 1 | -1): void {
  const now = props.charge.r_prog_ohm.value
  const next =
    by > 0
      ? choices.value.find((choice) => choice.r_ohm > now * 1.001)
      : [...choices.value].reverse().find((choice) => choice.r_ohm < now * 0.999)
  if (next) emit('fit', next.r_ohm)
}
</script>

<template>
  <div ref="box" class="min-h-226">
    <svg
      v-if="width"
      class="block text-small font-sans cursor-pointer"
      :width="width"
      :height="HEIGHT"
      role="slider"
      tabindex="0"
      aria-label="Charge-current resistor"
      :aria-valuemin="first.r_ohm"
      :aria-valuemax="last.r_ohm"
      :aria-valuenow="charge.r_prog_ohm.value"
      :aria-valuetext="`${charge.r_prog_ohm.text}, ${charge.current_a.text}`"
      @click="nearest"
      @keydown.right.prevent="step(1)"
      @keydown.up.prevent="step(1)"
      @keydown.left.prevent="step(-1)"
      @keydown.down.prevent="step(-1)"
    >
      <rect
        :x="LEFT"
        :y="y(lowest.current_a)"
        :width="width - LEFT - right"
        :height="BOTTOM - y(lowest.current_a)"
        class="allowed"
      />
      <line
        v-for="level in levels"
        :key="level.name"
        :x1="LEFT"
        :x2="width - right"
        :y1="level.at"
        :y2="level.at"
        :class="['level', { lowest: level.name === lowest.name }]"
      />
      <path
        v-for="level in levels"
        :key="`to ${level.name}`"
        :d="`M${width - right} ${level.at}L${width - right + 9} ${level.label - 4}`"
        class="leader"
      />
      <text
        v-for="level in levels"
        :key="`name ${level.name}`"
        :x="width - right + 12"
        :y="level.label"
        :class="['level-name', { lowest: level.name === lowest.name }]"
      >
        {{ level.words }}
      </text>
      <polygon :points="tolerance" class="tolerance" />
      <polyline :points="line" class="line" />
      <text v-for="mark in scale" :key="mark" :x="LEFT - 8" :y="y(mark) + 4" class="scale">
        {{ amps(mark) }}
      </text>
      <line
        v-for="choice in choices"
        :key="choice.r_ohm"
        :x1="x(choice.r_ohm)"
        :x2="x(choice.r_ohm)"
        :y1="BOTTOM"
        :y2="BOTTOM + 6"
        :class="['tick', { within: choice.within }]"
      />
      <text
        v-for="choice in named"
        :key="`n${choice.r_ohm}`"
        :x="x(choice.r_ohm)"
        :y="BOTTOM + 22"
        class="ohm"
      >
        {{ kilo(choice.r_ohm) }}
      </text>
      <line
        :x1="x(charge.r_prog_ohm.value)"
        :x2="x(charge.r_prog_ohm.value)"
        :y1="y(charge.current_a.value)"
        :y2="BOTTOM"
        class="line"
      />
      <circle :cx="x(charge.r_prog_ohm.value)" :cy="y(charge.current_a.value)" r="5.5" class="dot" />
      <text :x="x(charge.r_prog_ohm.value)" :y="BOTTOM + 22" class="ohm is-current">
        {{ kilo(charge.r_prog_ohm.value) }}
      </text>
    </svg>
  </div>
</template>

<style scoped>
.allowed {
  fill: var(--band);
  opacity: 0.35;
}
.level {
  stroke: var(--ink3);
  stroke-dasharray: 5 4;
}
.level.lowest {
  stroke: var(--pass);
  stroke-dasharray: none;
  stroke-width: 1.8;
}
.leader {
  fill: none;
  stroke: var(--line2);
}
.level-name {
  fill: var(--ink2);
}
.level-name.lowest {
  fill: var(--pass);
  font-weight: 600;
}
.tolerance {
  fill: var(--copper2);
  opacity: 0.3;
}
.line {
  fill: none;
  stroke: var(--copper);
  stroke-width: 2;
}
.dot {
  fill: var(--copper);
}
.scale {
  fill: var(--ink2);
  text-anchor: end;
}
.tick {
  stroke: var(--ink3);
}
.tick.within {
  stroke: var(--pass);
  stroke-width: 2;
}
.ohm {
  fill: var(--ink2);
  text-anchor: middle;
}
.ohm.is-current {
  fill: var(--copper);
  font-weight: 700;
}
</style>
