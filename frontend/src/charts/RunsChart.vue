<script setup lang="ts">
/** Volts at the gadget over hours, one line a build, on the band where the gadget works. */
import { computed } from 'vue'
import VChart from 'vue-echarts'

import type { Comparison, WindowSummary } from '@/api/client'
import { duration, volts } from '@/format'

import './chart'
import { axis, baseOption, useColours } from './chart'

const props = defineProps<{ sides: Comparison['sides']; window?: WindowSummary }>()
const colours = useColours()

interface Hovered {
  seriesName: string
  value: [number, number]
}

const option = computed(() => {
  const c = colours.value
  const paint = [c.copper, c.note, c.ink, c.pass, c.copper2, c.ink3]
  const drawn = props.sides.filter((side) => side.curve)
  const all = drawn.flatMap((side) => side.curve!.gadget_v).filter((v) => v > 0)
  const ends = props.window ? [props.window.v_run_min, props.window.v_abs_max] : []
  return {
    ...baseOption(c),
    legend: { top: 0, left: 50, icon: 'rect', itemHeight: 2, textStyle: { color: c.ink2 } },
    tooltip: {
      ...baseOption(c).tooltip,
      formatter: (points: Hovered[]) =>
        `${duration(points[0]!.value[0])}<br>` +
        points.map((p) => `${p.seriesName}: ${volts(p.value[1])}`).join('<br>'),
    },
    grid: { left: 52, right: 14, top: 34, bottom: 28 },
    xAxis: {
      type: 'value',
      min: 0,
      ...axis(c),
      axisLabel: { color: c.ink2, formatter: (v: number) => `${v} h` },
    },
    yAxis: {
      type: 'value',
      min: Math.floor((Math.min(...all, ...ends) - 0.2) * 5) / 5,
      max: Math.ceil((Math.max(...all, ...ends) + 0.2) * 5) / 5,
      ...axis(c, true),
      axisLabel: {
        color: c.ink2,
        showMinLabel: false,
        showMaxLabel: false,
        formatter: (v: number) => `${v.toFixed(1)} V`,
      },
    },
    series: drawn.map((side, index) => ({
      name: `${side.name}, ${side.mode}`,
      type: 'line',
      showSymbol: false,
      data: side.curve!.hours.map((hour, i) => [hour, side.curve!.gadget_v[i]]),
      lineStyle: { color: paint[index % paint.length], width: 2, type: index % 2 ? 'dashed' : 'solid' },
      itemStyle: { color: paint[index % paint.length] },
      ...(index === 0 && ends.length
        ? {
            markArea: {
              silent: true,
              itemStyle: { color: c.band, opacity: 0.35 },
              data: [[{ yAxis: ends[0] }, { yAxis: ends[1] }]],
            },
          }
        : {}),
    })),
  }
})
</script>

<template>
  <VChart
    class="chart"
    :option="option"
    autoresize
    role="img"
    aria-label="Gadget voltage over hours, build by build"
  />
</template>

<style scoped>
.chart {
  height: 240px;
}
</style>
