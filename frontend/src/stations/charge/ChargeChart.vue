<script setup lang="ts">
/** The charge over time: volts at the cell, current from the charger. */
import { computed } from 'vue'

import type { ChargingSummary } from '@/api/client'
import { amps, duration, fixed, milliampHours, volts } from '@/format'

import { axis, baseOption, drawn, hoursAxis, room, tip, useColours } from '@/charts/chart'
import ChartBox from '@/charts/ChartBox.vue'
import { useUnits } from '@/composables/useUnits'
import { t } from '@/words'

const { celsiusText: celsius } = useUnits()
const props = defineProps<{ charge: ChargingSummary; show: 'electric' | 'filled' | 'warm' }>()
const colours = useColours()

interface Drawn {
  name: string
  values: readonly number[]
  colour: string
  right?: boolean
  dashed?: boolean
  write: (value: number) => string
}

/** What each picture is made of; the left axis is the first line's. */
const lines = computed<Drawn[]>(() => {
  const c = colours.value
  const { cell_v, charger_a, charge_ah, inside_c, junction_c, cell_c } = props.charge.curve
  if (props.show === 'filled')
    return [{ name: t('in the cell'), values: charge_ah, colour: c.copper, write: milliampHours }]
  if (props.show === 'warm')
    return [
      { name: 'cell', values: cell_c, colour: c.copper, write: celsius },
      { name: t('air inside'), values: inside_c, colour: c.note, dashed: true, write: celsius },
      ...(junction_c.length ? [{ name: 'chip', values: junction_c, colour: c.ink, write: celsius }] : []),
    ]
  return [
    { name: t('V at the cell'), values: cell_v, colour: c.ink, write: volts },
    { name: t('charger'), values: charger_a, colour: c.copper, right: true, write: amps },
  ]
})

const option = computed(() => {
  const c = colours.value
  const { hours } = props.charge.curve
  const right = lines.value.find((line) => line.right)
  const left = lines.value[0]!
  return {
    ...baseOption(c),
    tooltip: tip(c, duration, said),
    grid: room(58, right ? 62 : 14, 26, 28),
    xAxis: {
      ...hoursAxis(c),
      max: 'dataMax',
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
          formatter: (v: number) => (props.show === 'electric' ? fixed(v, 1) : left.write(v)),
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
    series: lines.value.map(({ values, ...line }) => drawn({ ...line, x: hours, y: values })),
  }
})
const said = (name: string, y: number) =>
  `${name} ${lines.value.find((line) => line.name === name)!.write(y)}`
const spoken = computed(() =>
  props.charge.hours
    ? t('Charge run, full after {hours}', { hours: props.charge.hours.text })
    : t('Charge run'),
)
</script>

<template>
  <ChartBox :option="option" :height="190" :label="spoken" />
</template>
