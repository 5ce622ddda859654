<script setup lang="ts">
/** A measured run over its prediction: volts on the left, amps on the right; dashed is what was foretold. */
import { computed } from 'vue'
import VChart from 'vue-echarts'

import type { LogReply } from '@/api/client'
import { amps, duration, volts } from '@/format'

import './chart'
import { axis, baseOption, useColours } from './chart'

const props = defineProps<{ reply: LogReply }>()
const colours = useColours()

const option = computed(() => {
  const c = colours.value
  const { measured, predicted } = props.reply
  const pairs = (x: readonly number[], y: readonly number[]) => x.map((hour, i) => [hour, y[i]])
  const line = (name: string, data: unknown[], colour: string, right: boolean, dashed: boolean) => ({
    name,
    type: 'line',
    showSymbol: false,
    yAxisIndex: right ? 1 : 0,
    data,
    lineStyle: { color: colour, width: dashed ? 1.4 : 2, type: dashed ? 'dashed' : 'solid' },
    itemStyle: { color: colour },
  })
  return {
    ...baseOption(c),
    legend: { top: 0, left: 46, icon: 'rect', itemHeight: 2, textStyle: { color: c.ink2 } },
    tooltip: {
      ...baseOption(c).tooltip,
      formatter: (points: { seriesName: string; value: [number, number] }[]) =>
        [
          duration(points[0]!.value[0]),
          ...points.map(
            (p) => `${p.seriesName} ${p.seriesName.includes('V') ? volts(p.value[1]) : amps(p.value[1])}`,
          ),
        ].join('<br>'),
    },
    grid: { left: 46, right: 62, top: 34, bottom: 28 },
    xAxis: {
      type: 'value',
      min: 0,
      ...axis(c),
      axisLabel: { color: c.ink2, formatter: (v: number) => `${v} h` },
    },
    yAxis: [
      {
        type: 'value',
        scale: true,
        splitNumber: 4,
        ...axis(c, true),
        axisLabel: { color: c.ink2, formatter: (v: number) => v.toFixed(1) },
      },
      { type: 'value', min: 0, splitNumber: 4, ...axis(c), axisLabel: { color: c.copper, formatter: amps } },
    ],
    series: [
      line('V measured', pairs(measured.hours, measured.volts), c.ink, false, false),
      line('A measured', pairs(measured.hours, measured.amps), c.copper, true, false),
      ...(predicted
        ? [
            line('V foretold', pairs(predicted.hours, predicted.volts), c.ink3, false, true),
            line('A foretold', pairs(predicted.hours, predicted.amps), c.copper2, true, true),
          ]
        : []),
    ],
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
    aria-label="Measured over foretold"
  />
</template>

<style scoped>
.chart {
  height: 290px;
}
</style>
