<script setup lang="ts">
/** Every job as one row over the days: hands as blocks, what goes by itself as a line between them, nights shaded. */
import { computed } from 'vue'

import type { ClockAnswer } from '@/api/client'
import { dayName } from '@/format'

const ROW = 26
const WIDE = 1080
const NAMES = 190

const props = defineProps<{ due: ClockAnswer['timeline']['due']; now: string }>()
const from = computed(() => Date.parse(props.now))
const until = computed(() =>
  Math.max(...props.due.map(({ ends }) => Date.parse(ends)), from.value + 3_600_000),
)
const x = (moment: string | number) =>
  NAMES + ((new Date(moment).getTime() - from.value) / (until.value - from.value)) * (WIDE - NAMES)
const jobs = computed(() => [...new Set(props.due.map(({ job }) => job))])
const high = computed(() => jobs.value.length * ROW + 22)
const y = (job: string) => 20 + jobs.value.indexOf(job) * ROW
const midnights = computed(() => {
  const at = new Date(from.value)
  at.setHours(24, 0, 0, 0)
  const all: number[] = []
  for (; at.getTime() < until.value; at.setDate(at.getDate() + 1)) all.push(at.getTime())
  return all
})
const short = (job: string) => (job.length > 26 ? `${job.slice(0, 25)}…` : job)
</script>

<template>
  <div class="scroll" tabindex="0" role="group" aria-label="Timeline">
    <svg class="timeline block w-full min-w-720 bg-sheet" :viewBox="`0 0 ${WIDE} ${high}`" aria-hidden="true">
      <g v-for="at in midnights" :key="at">
        <line class="midnight" :x1="x(at)" :x2="x(at)" y1="0" :y2="high" />
        <text v-if="x(at) < WIDE - 70" :x="x(at) + 4" y="11">{{ dayName(at) }}</text>
      </g>
      <g v-for="job in jobs" :key="job">
        <text :y="y(job) + 15">{{ short(job) }}</text>
        <line class="row" :x1="NAMES" :x2="WIDE" :y1="y(job) + 11" :y2="y(job) + 11" />
      </g>
      <template v-for="one in due" :key="one.job + one.step">
        <line
          v-if="one.waits_from"
          :class="['wait', { attended: one.attended }]"
          :x1="Math.max(x(one.waits_from), NAMES)"
          :x2="x(one.begins)"
          :y1="y(one.job) + 11"
          :y2="y(one.job) + 11"
        />
        <rect
          class="hands"
          :class="{ overdue: one.late }"
          :x="x(one.begins)"
          :y="y(one.job) + 3"
          :width="Math.max(x(one.ends) - x(one.begins), 2)"
          height="16"
        >
          <title>{{ one.title }}</title>
        </rect>
      </template>
    </svg>
  </div>
</template>

<style scoped>
text {
  fill: var(--ink);
  font-size: 12px;
}
.row,
.midnight {
  stroke: var(--line);
}
.wait {
  stroke: var(--copper2);
  stroke-width: 2;
  stroke-dasharray: 5 4;
}
.wait.attended {
  stroke-dasharray: none;
}
.hands {
  fill: var(--copper);
}
.hands.overdue {
  fill: var(--caution);
}
</style>
