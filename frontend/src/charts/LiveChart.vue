<script setup lang="ts">
/** What an instrument has written so far: volts on the left, amps on the right, minutes along the bottom. */
import { computed } from 'vue'
import VChart from 'vue-echarts'

import type { LiveNews } from '@/api/client'
import { amps } from '@/format'

import './chart'
import { axis, baseOption, useColours } from './chart'

const props = defineProps<{ rows: LiveNews['samples']; seconds: number }>()
const colours = useColours()

const option = computed(() => {
  const c = colours.value
  const line = (name: string, column: 1 | 2, colour: string) => ({
    name,
    type: 'line',
    showSymbol: false,
    yAxisIndex: column - 1,
    data: props.rows.map((row) => [row[0] / 3600, row[column]]),
    lineStyle: { color: colour, width: 2 },
    itemStyle: { color: colour },
  })
  return {
    ...baseOption(c),
    animation: false,
    legend: { top: 0, left: 46, icon: 'rect', itemHeight: 2, textStyle: { color: c.ink2 } },
    grid: { left: 46, right: 62, top: 30, bottom: 26 },
    xAxis: {
      type: 'value',
      min: 0,
      max: Math.ceil((props.seconds / 3600) * 10) / 10,
      ...axis(c),
      axisLabel: { color: c.ink2, formatter: (v: number) => `${v} h` },
    },
    yAxis: [
      { type: 'value', scale: true, splitNumber: 3, ...axis(c, true) },
      { type: 'value', min: 0, splitNumber: 3, ...axis(c), axisLabel: { color: c.copper, formatter: amps } },
    ],
    series: [line('V', 1, c.ink), line('A', 2, c.copper)],
  }
})
</script>

<template>
  <VChart
    class="chart"
    :option="option"
    :update-options="{ notMerge: true }"
    autoresize
    role="img"
    aria-label="As it is measured"
  />
</template>

<style scoped>
.chart {
  height: 220px;
}
</style>
