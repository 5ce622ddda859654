<script setup lang="ts">
/** The charge over time: volts at the cell, current from the charger. */
import { computed } from 'vue'
import VChart from 'vue-echarts'

import type { ChargeSummary } from '@/api/client'
import { amps, duration, volts } from '@/format'

import './chart'
import { axis, baseOption, useColours } from './chart'

const props = defineProps<{ charge: ChargeSummary }>()
const colours = useColours()

interface Hovered {
  seriesName: string
  value: [number, number]
}

const option = computed(() => {
  const c = colours.value
  const { hours, cell_v, charger_a } = props.charge.curve
  const pairs = (values: readonly number[]) => hours.map((hour, i) => [hour, values[i]])
  return {
    ...baseOption(c),
    tooltip: {
      ...baseOption(c).tooltip,
      formatter: (points: Hovered[]) =>
        `${duration(points[0]!.value[0])}<br>` +
        points.map((p) => (p.seriesName === 'V' ? volts(p.value[1]) : amps(p.value[1]))).join('<br>'),
    },
    grid: { left: 46, right: 62, top: 26, bottom: 28 },
    xAxis: {
      type: 'value',
      min: 0,
      max: 'dataMax',
      ...axis(c),
      axisLabel: { color: c.ink2, formatter: (v: number) => (Number.isInteger(v * 4) ? `${v} h` : '') },
    },
    yAxis: [
      {
        type: 'value',
        name: 'V at the cell',
        min: 'dataMin',
        scale: true,
        splitNumber: 3,
        ...axis(c, true),
        axisLabel: { color: c.ink2, formatter: (v: number) => v.toFixed(1) },
      },
      {
        type: 'value',
        name: 'charger',
        min: 0,
        splitNumber: 3,
        ...axis(c),
        axisLabel: { color: c.copper, formatter: (v: number) => amps(v) },
        nameTextStyle: { color: c.copper },
      },
    ],
    series: [
      {
        name: 'V',
        type: 'line',
        showSymbol: false,
        data: pairs(cell_v),
        lineStyle: { color: c.ink, width: 2 },
        itemStyle: { color: c.ink },
      },
      {
        name: 'A',
        type: 'line',
        showSymbol: false,
        yAxisIndex: 1,
        data: pairs(charger_a),
        lineStyle: { color: c.copper, width: 2 },
        itemStyle: { color: c.copper },
      },
    ],
  }
})
const spoken = computed(() =>
  props.charge.hours ? `Charge run, full after ${duration(props.charge.hours)}` : 'Charge run',
)
</script>

<template>
  <VChart class="chart" :option="option" autoresize role="img" :aria-label="spoken" />
</template>

<style scoped>
.chart {
  height: 190px;
}
</style>
