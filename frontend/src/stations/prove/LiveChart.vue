<script setup lang="ts">
/** What an instrument has written so far: volts on the left, amps on the right, hours along the bottom. */
import { computed } from 'vue'

import type { LiveNews } from '@/api/client'
import { amps } from '@/format'

import { axis, baseOption, drawn, hoursAxis, legend, room, useColours } from '@/charts/chart'
import ChartBox from '@/charts/ChartBox.vue'

const props = defineProps<{ rows: LiveNews['samples']; seconds: number }>()
const colours = useColours()

const option = computed(() => {
  const c = colours.value
  const x = props.rows.map((row) => row[0] / 3600)
  return {
    ...baseOption(c),
    legend: legend(c),
    grid: room(46, 62, 30, 26),
    xAxis: {
      ...hoursAxis(c),
      max: Math.ceil((Math.max(props.seconds, props.rows.at(-1)?.[0] ?? 0) / 3600) * 10) / 10,
    },
    yAxis: [
      { type: 'value', scale: true, splitNumber: 3, ...axis(c, true) },
      { type: 'value', min: 0, splitNumber: 3, ...axis(c), axisLabel: { color: c.copper, formatter: amps } },
    ],
    series: [
      drawn({ name: 'V', x, y: props.rows.map((row) => row[1]), colour: c.ink }),
      drawn({ name: 'A', x, y: props.rows.map((row) => row[2]), colour: c.copper, right: true }),
    ],
  }
})
</script>

<template>
  <ChartBox :option="option" :height="220" label="As it is measured" />
</template>
