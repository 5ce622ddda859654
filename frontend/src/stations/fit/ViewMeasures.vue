<script setup lang="ts">
/** The figures of one of the three views: the tightest places in it, and how large the bay is. */
import { computed } from 'vue'

import type { FitAnswer } from '@/api/client'
import type { Point, View, ViewLayout } from '@/stations/fit/useViewLayout'
import { useUnits } from '@/composables/useUnits'

const { bare: figure } = useUnits()
const props = defineProps<{
  answer: FitAnswer
  view: View
  layout: ViewLayout
  unit: 'mm' | 'in'
  /** Measures are fields that stand over the drawing: here only their lines are drawn. */
  fields?: boolean
}>()

const tightest = computed(() => (props.answer.gaps ?? []).slice(0, 3))
const shownIn = (view: View, gap: { start_mm: Point; end_mm: Point }) =>
  Math.abs(gap.start_mm[view.across]! - gap.end_mm[view.across]!) > 1e-6 ||
  Math.abs(gap.start_mm[view.up]! - gap.end_mm[view.up]!) > 1e-6

/** Whether the figure at the left of a view is a field: a tube's diameter is one only once. */
const hasField = (view: View) =>
  props.fields && (view.key === 'top' || (view.key === 'front' && !props.answer.tube_mm))
</script>

<template>
  <g>
    <template v-for="gap in tightest" :key="`${gap.first} ${gap.second}`">
      <g v-if="shownIn(view, gap)" class="gap">
        <line
          :x1="layout.px(view, gap.start_mm[view.across]!)"
          :y1="layout.py(view, gap.start_mm[view.up]!)"
          :x2="layout.px(view, gap.end_mm[view.across]!)"
          :y2="layout.py(view, gap.end_mm[view.up]!)"
        />
        <text
          :x="layout.px(view, gap.end_mm[view.across]!) + 3"
          :y="layout.py(view, gap.end_mm[view.up]!) + (view.key === 'top' ? -3 : 12)"
        >
          {{ figure(gap.mm) }}
        </text>
      </g>
    </template>
    <!-- overall measures, outside the walls -->
    <g class="measure">
      <path
        :d="`M${layout.px(view, 0)} ${view.y + (layout.size[view.up]! + 2 * layout.wall) * layout.scale + 12}H${layout.px(view, layout.size[view.across]!)}`"
      />
      <text
        v-if="!(fields && view.key === 'top')"
        :x="layout.px(view, layout.size[view.across]! / 2)"
        :y="view.y + (layout.size[view.up]! + 2 * layout.wall) * layout.scale + 26"
        class="middle"
      >
        {{ figure(layout.size[view.across]!) }}
      </text>
      <path
        :d="`M${view.x - (hasField(view) ? 31 : 10)} ${layout.py(view, 0)}V${layout.py(view, layout.size[view.up]!)}`"
      />
      <text
        v-if="!hasField(view)"
        :transform="`translate(${view.x - 14} ${layout.py(view, layout.size[view.up]! / 2)}) rotate(-90)`"
        class="middle"
      >
        {{ figure(layout.size[view.up]!) }}
      </text>
    </g>
  </g>
</template>

<style scoped>
text {
  fill: var(--ink2);
}
.gap line {
  stroke: var(--copper);
  stroke-width: 1.6;
}
.gap text {
  fill: var(--copper);
  font-weight: 600;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
}
.measure path {
  fill: none;
  stroke: var(--ink3);
}
.middle {
  text-anchor: middle;
}
</style>
