/** The chart library, only the pieces used, and the house's colours for it. */
import { LineChart } from 'echarts/charts'
import {
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { computed } from 'vue'

import { useTheme } from '@/composables/useTheme'

use([
  LineChart,
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
  CanvasRenderer,
])

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
    ) as Record<(typeof NAMES)[number], string>
  })
}

const FONT = '"Atkinson Hyperlegible Next", "Source Sans 3", system-ui, sans-serif'

export function baseOption(colours: Record<(typeof NAMES)[number], string>) {
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

export function axis(colours: Record<(typeof NAMES)[number], string>, grid = false) {
  return {
    axisLine: { show: true, lineStyle: { color: colours.line2 } },
    axisTick: { lineStyle: { color: colours.line2 } },
    axisLabel: { color: colours.ink2 },
    splitLine: { show: grid, lineStyle: { color: colours.line } },
    nameTextStyle: { color: colours.ink2 },
  }
}
