<script setup lang="ts">
/** Volts at the gadget over hours, one line a build, on the band where the gadget works. */
import { computed } from 'vue'

import type { Comparison, WindowSummary } from '@/api/client'
import { duration, volts } from '@/format'

import { band, baseOption, drawn, hoursAxis, legend, room, tip, useColours, voltsAxis } from '@/charts/chart'
import ChartBox from '@/charts/ChartBox.vue'

const props = defineProps<{ sides: Comparison['sides']; window?: WindowSummary }>()
const colours = useColours()

const said = (name: string, y: number) => `${name}: ${volts(y)}`

const option = computed(() => {
  const c = colours.value
  const paint = [c.copper, c.note, c.ink, c.pass, c.copper2, c.ink3]
  const sides = props.sides.filter((side) => side.curve)
  const seen = sides.flatMap((side) => side.curve!.gadget_v).filter((v) => v > 0)
  const ends = props.window && ([props.window.v_run_min.value, props.window.v_abs_max.value] as const)
  return {
    ...baseOption(c),
    legend: legend(c),
    tooltip: tip(c, duration, said),
    grid: room(52, 14, 34, 28),
    xAxis: hoursAxis(c),
    yAxis: voltsAxis(c, [...seen, ...(ends ?? [])]),
    series: sides.map((side, index) => ({
      ...drawn({
        name: `${side.name}, ${side.mode}`,
        x: side.curve!.hours,
        y: side.curve!.gadget_v,
        colour: paint[index % paint.length]!,
        dashed: index % 2 === 1,
      }),
      ...(index === 0 && ends ? { markArea: band(c, ...ends) } : {}),
    })),
  }
})
</script>

<template>
  <ChartBox :option="option" :height="240" label="Gadget voltage over hours, build by build" />
</template>
