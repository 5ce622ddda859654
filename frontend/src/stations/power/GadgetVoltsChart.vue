<script setup lang="ts">
/** Volts at the gadget over the charge left, mode by mode, on the band where it works. */
import { computed } from 'vue'

import type { RunSummary, WindowSummary } from '@/api/client'
import { volts } from '@/format'

import { axis, band, baseOption, drawn, room, tip, useColours, voltsAxis } from '@/charts/chart'
import ChartBox from '@/charts/ChartBox.vue'
import { t } from '@/words'

const props = defineProps<{ run: RunSummary; window: WindowSummary }>()
const colours = useColours()

const left = (share: number) => t('{figure} % left', { figure: share.toFixed(0) })
const said = (name: string, y: number) => `${name}: ${volts(y)}`

const option = computed(() => {
  const c = colours.value
  const paint = [c.copper, c.note, c.ink, c.pass]
  const seen = props.run.modes.flatMap((mode) => mode.curve.gadget_v).filter((v) => v > 0)
  const { v_run_min, v_abs_max, min_basis, max_basis } = props.window
  const guessed = (basis: string) => basis === 'inferred' || basis === 'default'
  const edge = (value: number, basis: string) => ({
    yAxis: value,
    lineStyle: { color: c.pass, type: guessed(basis) ? 'dashed' : 'solid', width: 1.5 },
  })
  const window = {
    markArea: band(c, v_run_min.value, v_abs_max.value),
    markLine: {
      silent: true,
      symbol: 'none',
      label: { show: false },
      data: [edge(v_run_min.value, min_basis), edge(v_abs_max.value, max_basis)],
    },
  }
  return {
    ...baseOption(c),
    tooltip: tip(c, left, said),
    grid: room(52, 14, 14, 40),
    xAxis: {
      type: 'value',
      min: 0,
      max: 100,
      inverse: true,
      name: t('charge left'),
      nameLocation: 'middle',
      nameGap: 24,
      ...axis(c),
      axisLabel: { color: c.ink2, formatter: '{value} %' },
    },
    yAxis: voltsAxis(c, [...seen, v_run_min.value, v_abs_max.value]),
    series: props.run.modes.map((mode, index) => ({
      ...drawn({
        name: mode.name,
        x: mode.curve.soc.map((soc) => soc * 100),
        y: mode.curve.gadget_v,
        colour: paint[index % paint.length]!,
        dashed: index > 0,
      }),
      ...(index === 0 ? window : {}),
    })),
  }
})
</script>

<template>
  <ChartBox :option="option" :height="230" label="Gadget voltage over charge left" />
</template>
