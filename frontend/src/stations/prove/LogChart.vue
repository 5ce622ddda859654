<script setup lang="ts">
/** A measured run over its prediction: volts on the left, amps on the right; dashed is what was predicted. */
import { computed } from 'vue'

import type { LogReply } from '@/api/client'
import { amps, duration, fixed, volts } from '@/format'

import {
  axis,
  baseOption,
  drawn,
  hoursAxis,
  legend,
  room,
  tip,
  useColours,
  type Colours,
} from '@/charts/chart'
import ChartBox from '@/charts/ChartBox.vue'
import { t } from '@/words'

const props = defineProps<{ reply: LogReply }>()
const colours = useColours()
const said = (name: string, y: number) => `${name} ${name.startsWith('V') ? volts(y) : amps(y)}`

/** Charges and run-downs as numbered bands behind the lines. */
function piecesIn(c: Colours, pieces: LogReply['pieces']) {
  return {
    silent: true,
    label: { color: c.ink2, position: 'insideTop' },
    data: pieces.map(({ kind, starts_h, ends_h }, index) => [
      {
        name: `${index + 1}`,
        xAxis: starts_h,
        itemStyle: { color: kind === 'charge' ? c.band : c.lithium, opacity: 0.3 },
      },
      { xAxis: ends_h },
    ]),
  }
}

const option = computed(() => {
  const c = colours.value
  const { measured, predicted } = props.reply
  const x = measured.hours
  const lines = [
    drawn({ name: t('V measured'), x, y: measured.volts, colour: c.ink }),
    drawn({ name: t('A measured'), x, y: measured.amps, colour: c.copper, right: true }),
  ]
  if (predicted) {
    const along = { x: predicted.hours, dashed: true }
    lines.push(
      drawn({ ...along, name: t('V predicted'), y: predicted.volts, colour: c.ink3 }),
      drawn({ ...along, name: t('A predicted'), y: predicted.amps, colour: c.copper2, right: true }),
    )
  }
  const [volts_, ...others] = lines
  // The whole file is shown while none of its pieces is picked.
  const areas = props.reply.analysis ? [] : props.reply.pieces
  const shaded = areas.length ? { ...volts_, markArea: piecesIn(c, areas) } : volts_
  return {
    ...baseOption(c),
    legend: legend(c),
    tooltip: tip(c, duration, said),
    grid: room(46, 62, 34, 28),
    xAxis: hoursAxis(c),
    yAxis: [
      {
        type: 'value',
        scale: true,
        splitNumber: 4,
        ...axis(c, true),
        axisLabel: { color: c.ink2, formatter: (v: number) => fixed(v, 1) },
      },
      { type: 'value', min: 0, splitNumber: 4, ...axis(c), axisLabel: { color: c.copper, formatter: amps } },
    ],
    series: [shaded, ...others],
  }
})
</script>

<template>
  <ChartBox :option="option" :height="290" label="Measured over predicted" />
</template>
