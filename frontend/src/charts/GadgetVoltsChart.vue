<script setup lang="ts">
/** Volts at the gadget over the charge left, mode by mode, on the band where it works. */
import { computed } from 'vue'
import VChart from 'vue-echarts'

import type { RunSummary, WindowSummary } from '@/api/client'
import { volts } from '@/format'

import './chart'
import { axis, baseOption, useColours } from './chart'

const props = defineProps<{ run: RunSummary; window: WindowSummary }>()
const colours = useColours()

interface Hovered {
  seriesName: string
  value: [number, number]
}

const option = computed(() => {
  const c = colours.value
  const paint = [c.copper, c.note, c.ink, c.pass]
  const all = props.run.modes.flatMap((mode) => mode.curve.gadget_v).filter((v) => v > 0)
  const ends = [props.window.v_run_min, props.window.v_abs_max]
  const low = Math.min(...all, ...ends) - 0.2
  const high = Math.max(...all, ...ends) + 0.2
  const dashed = (basis: string) => (basis === 'inferred' || basis === 'default' ? 'dashed' : 'solid')
  const edge = (value: number, basis: string) => ({
    yAxis: value,
    lineStyle: { color: c.pass, type: dashed(basis), width: 1.5 },
  })
  return {
    ...baseOption(c),
    tooltip: {
      ...baseOption(c).tooltip,
      formatter: (points: Hovered[]) =>
        `${points[0]!.value[0].toFixed(0)} % left<br>` +
        points.map((p) => `${p.seriesName}: ${volts(p.value[1])}`).join('<br>'),
    },
    grid: { left: 52, right: 14, top: 14, bottom: 40 },
    xAxis: {
      type: 'value',
      min: 0,
      max: 100,
      inverse: true,
      name: 'charge left',
      nameLocation: 'middle',
      nameGap: 24,
      ...axis(c),
      axisLabel: { color: c.ink2, formatter: '{value} %' },
    },
    yAxis: {
      type: 'value',
      min: Math.floor(low * 5) / 5,
      max: Math.ceil(high * 5) / 5,
      ...axis(c, true),
      axisLabel: {
        color: c.ink2,
        showMinLabel: false,
        showMaxLabel: false,
        formatter: (v: number) => `${v.toFixed(1)} V`,
      },
    },
    series: props.run.modes.map((mode, index) => ({
      name: mode.name,
      type: 'line',
      showSymbol: false,
      data: mode.curve.soc.map((soc, i) => [soc * 100, mode.curve.gadget_v[i]]),
      lineStyle: { color: paint[index % paint.length], width: 2, type: index === 0 ? 'solid' : 'dashed' },
      itemStyle: { color: paint[index % paint.length] },
      ...(index === 0
        ? {
            markArea: {
              silent: true,
              itemStyle: { color: c.band, opacity: 0.35 },
              data: [[{ yAxis: ends[0] }, { yAxis: ends[1] }]],
            },
            markLine: {
              silent: true,
              symbol: 'none',
              label: { show: false },
              data: [edge(ends[0]!, props.window.min_basis), edge(ends[1]!, props.window.max_basis)],
            },
          }
        : {}),
    })),
  }
})
</script>

<template>
  <VChart class="chart" :option="option" autoresize role="img" aria-label="Gadget voltage over charge left" />
</template>

<style scoped>
.chart {
  height: 230px;
}
</style>
