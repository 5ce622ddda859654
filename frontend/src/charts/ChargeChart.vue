<script setup lang="ts">
/** The charge over time: volts at the cell, current from the charger. */
import { computed } from 'vue'
import VChart from 'vue-echarts'

import type { ChargeSummary } from '@/api/client'
import { amps, duration, milliampHours, volts } from '@/format'

import './chart'
import { axis, baseOption, useColours } from './chart'

const props = defineProps<{ charge: ChargeSummary; show: 'electric' | 'filled' | 'warm' }>()
const colours = useColours()

interface Hovered {
  seriesName: string
  value: [number, number]
}
interface Line {
  name: string
  values: readonly number[]
  colour: string
  right?: boolean
  dashed?: boolean
  write: (value: number) => string
}

const celsius = (value: number) => `${value.toFixed(0)} °C`

/** What each picture is made of; the left axis is the first line's. */
const lines = computed<Line[]>(() => {
  const c = colours.value
  const { cell_v, charger_a, charge_ah, inside_c, junction_c, cell_c } = props.charge.curve
  if (props.show === 'filled')
    return [{ name: 'in the cell', values: charge_ah, colour: c.copper, write: milliampHours }]
  if (props.show === 'warm')
    return [
      { name: 'cell', values: cell_c, colour: c.copper, write: celsius },
      { name: 'air inside', values: inside_c, colour: c.note, dashed: true, write: celsius },
      ...(junction_c.length ? [{ name: 'chip', values: junction_c, colour: c.ink, write: celsius }] : []),
    ]
  return [
    { name: 'V at the cell', values: cell_v, colour: c.ink, write: volts },
    { name: 'charger', values: charger_a, colour: c.copper, right: true, write: amps },
  ]
})

const option = computed(() => {
  const c = colours.value
  const { hours } = props.charge.curve
  const right = lines.value.find((line) => line.right)
  const left = lines.value[0]!
  return {
    ...baseOption(c),
    tooltip: {
      ...baseOption(c).tooltip,
      formatter: (points: Hovered[]) =>
        [
          duration(points[0]!.value[0]),
          ...points.map((p) => {
            const line = lines.value.find((line) => line.name === p.seriesName)!
            return `${line.name} ${line.write(p.value[1])}`
          }),
        ].join('<br>'),
    },
    grid: { left: 58, right: right ? 62 : 14, top: 26, bottom: 28 },
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
        name: lines.value
          .filter((line) => !line.right)
          .map((line) => line.name)
          .join(', '),
        min: props.show === 'electric' ? 'dataMin' : undefined,
        scale: props.show !== 'filled',
        splitNumber: 3,
        ...axis(c, true),
        nameTextStyle: { color: c.ink2, align: 'left', padding: [0, 0, 0, -40] },
        axisLabel: {
          color: c.ink2,
          formatter: (v: number) => (props.show === 'electric' ? v.toFixed(1) : left.write(v)),
        },
      },
      ...(right
        ? [
            {
              type: 'value',
              name: right.name,
              min: 0,
              splitNumber: 3,
              ...axis(c),
              axisLabel: { color: right.colour, formatter: right.write },
              nameTextStyle: { color: right.colour },
            },
          ]
        : []),
    ],
    series: lines.value.map((line) => ({
      name: line.name,
      type: 'line',
      showSymbol: false,
      yAxisIndex: line.right ? 1 : 0,
      data: hours.map((hour, i) => [hour, line.values[i]]),
      lineStyle: { color: line.colour, width: 2, type: line.dashed ? 'dashed' : 'solid' },
      itemStyle: { color: line.colour },
    })),
  }
})
const spoken = computed(() =>
  props.charge.hours ? `Charge run, full after ${duration(props.charge.hours)}` : 'Charge run',
)
</script>

<template>
  <VChart
    class="chart"
    :option="option"
    :update-options="{ notMerge: true }"
    autoresize
    role="img"
    :aria-label="spoken"
  />
</template>

<style scoped>
.chart {
  height: 190px;
}
</style>
