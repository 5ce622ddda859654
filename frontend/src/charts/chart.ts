/** The house's colours for the chart library. */
import { computed } from 'vue'

import { fixed } from '@/format'
import { useTheme } from '@/composables/useTheme'

export type Colours = Record<(typeof NAMES)[number], string>

const NAMES = [
  'ink',
  'ink2',
  'ink3',
  'line',
  'line2',
  'sheet',
  'copper',
  'copper2',
  'band',
  'pass',
  'note',
  'lithium',
] as const

/** The theme's colours as the canvas needs them: read again when the theme changes. */
export function useColours() {
  const { dark } = useTheme()
  return computed(() => {
    void dark.value
    const style = getComputedStyle(document.documentElement)
    return Object.fromEntries(
      NAMES.map((name) => [name, style.getPropertyValue(`--${name}`).trim()]),
    ) as Colours
  })
}

const FONT = '"Atkinson Hyperlegible Next", "Source Sans 3", system-ui, sans-serif'

export function baseOption(colours: Colours) {
  return {
    animation: false,
    textStyle: { fontFamily: FONT, fontSize: 12.5, color: colours.ink2 },
    tooltip: {
      trigger: 'axis' as const,
      backgroundColor: colours.sheet,
      borderColor: colours.line2,
      textStyle: { color: colours.ink, fontFamily: FONT },
    },
  }
}

/** Room round a chart, in px. It is given with room for the labels: working that out again is half of what drawing costs. */
export function room(left: number, right: number, top: number, bottom: number) {
  return { left, right, top, bottom, outerBoundsMode: 'none' as const }
}

export function axis(colours: Colours, grid = false) {
  return {
    axisLine: { show: true, lineStyle: { color: colours.line2 } },
    axisTick: { lineStyle: { color: colours.line2 } },
    axisLabel: { color: colours.ink2 },
    splitLine: { show: grid, lineStyle: { color: colours.line } },
    nameTextStyle: { color: colours.ink2 },
  }
}

/** A point that the pointer is over. */
export interface Hovered {
  seriesName: string
  value: [number, number]
}

/** The tip over a point: where it is, then every line's value in its own words. */
export function tip(
  colours: Colours,
  where: (x: number) => string,
  said: (name: string, y: number) => string,
) {
  return {
    ...baseOption(colours).tooltip,
    formatter: (points: Hovered[]) =>
      [where(points[0]!.value[0]), ...points.map((p) => said(p.seriesName, p.value[1]))].join('<br>'),
  }
}

export function legend(colours: Colours) {
  return { top: 0, left: 46, icon: 'rect', itemHeight: 2, textStyle: { color: colours.ink2 } }
}

/** Hours along the bottom, from 0. */
export function hoursAxis(colours: Colours) {
  return {
    type: 'value',
    min: 0,
    ...axis(colours),
    axisLabel: { color: colours.ink2, formatter: (v: number) => `${v} h` },
  }
}

/** Volts up the left side, between two figures rounded outwards to a fifth of a volt. */
export function voltsAxis(colours: Colours, values: readonly number[]) {
  return {
    type: 'value',
    min: Math.floor((Math.min(...values) - 0.2) * 5) / 5,
    max: Math.ceil((Math.max(...values) + 0.2) * 5) / 5,
    ...axis(colours, true),
    axisLabel: {
      color: colours.ink2,
      showMinLabel: false,
      showMaxLabel: false,
      formatter: (v: number) => `${fixed(v, 1)} V`,
    },
  }
}

/** The band between which a gadget works. */
export function band(colours: Colours, low: number, high: number) {
  return {
    silent: true,
    itemStyle: { color: colours.band, opacity: 0.35 },
    data: [[{ yAxis: low }, { yAxis: high }]],
  }
}

/** One line of a picture; `right`: on the axis at the right. */
export interface Line {
  name: string
  x: readonly number[]
  y: readonly (number | undefined)[]
  colour: string
  right?: boolean
  dashed?: boolean
}

export function drawn({ name, x, y, colour, right, dashed }: Line) {
  return {
    name,
    type: 'line',
    showSymbol: false,
    yAxisIndex: right ? 1 : 0,
    data: x.map((at, i) => [at, y[i]]),
    lineStyle: { color: colour, width: dashed ? 1.6 : 2, type: dashed ? 'dashed' : 'solid' },
    itemStyle: { color: colour },
  }
}
