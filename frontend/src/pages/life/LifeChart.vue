<script setup lang="ts">
/** How long a charge serves over the years, with the band of other cells of its kind, and what it is to last. */
import { computed } from 'vue'

import type { ServiceLife } from '@/api/client'
import { days } from '@/format'

import { axis, baseOption, room, tip, useColours } from '@/charts/chart'
import ChartBox from '@/charts/ChartBox.vue'
import { t } from '@/words'

const props = defineProps<{ life: ServiceLife; height: number }>()
const colours = useColours()

/** In months in which it is not used there is no line. */
const inUse = (values: readonly number[]) =>
  values.map((value, month) => [month, props.life.used[month] ? value : null])
const monthOf = (at: number) =>
  t('{first_year}, month {value}', {
    first_year: Math.floor(at / 12) + props.life.first_year,
    value: (at % 12) + 1,
  })
const said = (name: string, y: number) => (name && y !== null ? `${name}: ${days(y)}` : '')

const option = computed(() => {
  const c = colours.value
  const { days: band, wanted_days, fails, tests } = props.life
  const months = band.likely.length
  const new_ = band.likely[props.life.used.indexOf(true)] ?? 0
  const hidden = { type: 'line', stack: 'band', symbol: 'none', silent: true, lineStyle: { opacity: 0 } }
  return {
    ...baseOption(c),
    tooltip: tip(c, monthOf, said),
    grid: room(64, 16, 18, 30),
    xAxis: {
      type: 'value',
      min: 0,
      max: months,
      interval: 12,
      ...axis(c),
      axisLabel: {
        color: c.ink2,
        hideOverlap: true,
        formatter: (at: number) => `${props.life.first_year + at / 12}`,
      },
    },
    yAxis: {
      type: 'value',
      min: 0,
      splitNumber: 4,
      ...axis(c, true),
      axisLabel: { color: c.ink2, formatter: (v: number) => (v ? days(v) : '0') },
    },
    series: [
      { ...hidden, name: '', data: inUse(band.least) },
      {
        ...hidden,
        name: '',
        data: inUse(band.most.map((most, month) => most - band.least[month]!)),
        areaStyle: { color: c.copper2, opacity: 0.22 },
      },
      {
        name: t('a charge lasts'),
        type: 'line',
        showSymbol: false,
        data: inUse(band.likely),
        lineStyle: { color: c.copper, width: 2.4 },
        itemStyle: { color: c.copper },
        markLine: {
          silent: true,
          symbol: 'none',
          label: {
            position: 'insideStartTop',
            color: c.pass,
            fontWeight: 600,
            formatter: t('it is to last {days}', { days: days(wanted_days.value) }),
          },
          lineStyle: { color: c.pass, type: 'dashed', width: 1.4 },
          data: [{ yAxis: wanted_days.value }],
        },
      },
      {
        name: '',
        type: 'line',
        lineStyle: { opacity: 0 },
        symbol: 'circle',
        symbolSize: 11,
        itemStyle: { color: c.sheet, borderColor: c.copper, borderWidth: 2.4 },
        data: fails ? [[fails.month, band.likely[fails.month]]] : [],
      },
      {
        name: t('by its own test'),
        type: 'line',
        lineStyle: { opacity: 0 },
        symbol: 'diamond',
        symbolSize: 12,
        itemStyle: { color: c.ink },
        data: tests.map(({ month, left }) => [month, left * new_]),
      },
    ],
  }
})
</script>

<template>
  <ChartBox :option="option" :height="height" label="Days on a charge over the years" />
</template>
