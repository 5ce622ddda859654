<script setup lang="ts">
/** The case round a bay in one of the three views: walls, what is no bay, curves, and where it may be opened. */
import { computed } from 'vue'

import type { FitAnswer } from '@/api/client'
import type { View, ViewLayout } from '@/stations/fit/useViewLayout'

const props = defineProps<{ answer: FitAnswer; view: View; layout: ViewLayout }>()

/** What is not bay lies undermost: from above, nothing of the case hides a space that lies deeper. */
const layers = computed(() => {
  const outside = (props.answer.solids ?? []).filter(({ state }) => state === 'outside')
  return [...outside, ...(props.answer.rooms ?? [])]
})

/** What troughs and rounded corners take of a room's box, as filled paths, where a view shows their curves. */
function curves(view: View): string[] {
  const arc = (mm: number, sweep: 0 | 1) =>
    `A${mm * props.layout.scale} ${mm * props.layout.scale} 0 0 ${sweep} `
  return (props.answer.shapes ?? []).flatMap(({ min_mm, max_mm, troughs, corner_mm }) => {
    const [x0, x1] = [
      props.layout.px(view, min_mm[view.across]!),
      props.layout.px(view, max_mm[view.across]!),
    ]
    const [y0, y1] = [props.layout.py(view, min_mm[view.up]!), props.layout.py(view, max_mm[view.up]!)]
    if (view.key === 'side' && troughs) {
      const radius = (max_mm[1]! - min_mm[1]!) / troughs / 2
      const ridge = y0 - radius * props.layout.scale
      const arcs = Array.from({ length: troughs }, (_, i) => {
        return `${arc(radius, 0)}${x0 + 2 * radius * (i + 1) * props.layout.scale} ${ridge}`
      })
      return [`M${x0} ${y0}V${ridge}${arcs.join('')}V${y0}Z`]
    }
    const c = corner_mm * props.layout.scale
    if (view.key !== 'top' || !c) return []
    return [
      [x0, y0, 1, -1],
      [x1, y0, -1, -1],
      [x0, y1, 1, 1],
      [x1, y1, -1, 1],
    ].map(([x, y, right, down]) => {
      const sweep = right! * down! > 0 ? 1 : 0
      return `M${x} ${y}V${y! + down! * c}${arc(corner_mm, sweep)}${x! + right! * c} ${y}Z`
    })
  })
}

const SIDES_IN: Record<View['key'], [string, string, string, string]> = {
  top: ['left', 'right', 'front', 'back'],
  front: ['left', 'right', 'floor', 'lid'],
  side: ['front', 'back', 'floor', 'lid'],
}
/** The stretch of a wall that may be opened, in the views where that wall is seen from its edge. */
function openLines(view: View): [string, number, number, number, number][] {
  const [west, east, south, north] = SIDES_IN[view.key]
  const out = props.layout.wall / 2
  return (props.answer.open_walls ?? []).flatMap(({ side, along_mm, up_mm }) => {
    const level = side === 'floor' || side === 'lid'
    const [from, to] = (view.key === 'top' || (level && view.key === 'front') ? along_mm : up_mm) as [
      number,
      number,
    ]
    const [a, u] = [props.layout.size[view.across]!, props.layout.size[view.up]!]
    const lines: Record<string, [number, number, number, number]> = {
      [west]: [-out, from, -out, to],
      [east]: [a + out, from, a + out, to],
      [south]: [from, -out, to, -out],
      [north]: [from, u + out, to, u + out],
    }
    const line = lines[side]
    return line ? [[side, ...line] as [string, number, number, number, number]] : []
  })
}

/** In the round: a sixth of the rim about the side that may be opened. */
function openArc(side: string): string {
  const turn = { back: 0, lid: 90, front: 180, floor: 270 }[side]
  if (turn === undefined) return ''
  const radius = props.layout.size[1]! / 2 + props.layout.wall / 2
  const view = props.layout.views[2]!
  const [from, to] = [turn - 30, turn + 30].map((degrees) => {
    const angle = (degrees * Math.PI) / 180
    const middle = props.layout.size[1]! / 2
    return [
      props.layout.px(view, middle + radius * Math.cos(angle)),
      props.layout.py(view, middle + radius * Math.sin(angle)),
    ]
  }) as [number[], number[]]
  const r = radius * props.layout.scale
  return `M${from[0]} ${from[1]}A${r} ${r} 0 0 0 ${to[0]} ${to[1]}`
}
</script>

<template>
  <g>
    <template v-if="answer.tube_mm && view.key === 'side'">
      <circle
        :cx="layout.px(view, layout.size[1]! / 2)"
        :cy="layout.py(view, layout.size[2]! / 2)"
        :r="(layout.size[1]! / 2 + layout.wall) * layout.scale"
        :class="['wall', { assumed: answer.assumed_bay }]"
      />
      <circle
        :cx="layout.px(view, layout.size[1]! / 2)"
        :cy="layout.py(view, layout.size[2]! / 2)"
        :r="(layout.size[1]! / 2) * layout.scale"
        class="room"
      />
      <path v-for="open in answer.open_walls" :key="open.side" :d="openArc(open.side)" class="open" />
    </template>
    <template v-else>
      <rect
        :x="view.x"
        :y="view.y"
        :width="(layout.size[view.across]! + 2 * layout.wall) * layout.scale"
        :height="(layout.size[view.up]! + 2 * layout.wall) * layout.scale"
        :class="['wall', { assumed: answer.assumed_bay }]"
      />
      <rect
        :x="layout.px(view, 0)"
        :y="layout.py(view, layout.size[view.up]!)"
        :width="layout.size[view.across]! * layout.scale"
        :height="layout.size[view.up]! * layout.scale"
        class="room"
      />
      <line
        v-for="[side, x1, y1, x2, y2] in openLines(view)"
        :key="side"
        :x1="layout.px(view, x1)"
        :y1="layout.py(view, y1)"
        :x2="layout.px(view, x2)"
        :y2="layout.py(view, y2)"
        class="open"
      />
    </template>
    <rect
      v-for="(solid, i) in layers"
      :key="i"
      v-bind="layout.rect(view, solid.min_mm, solid.max_mm)"
      :class="['solid', solid.state]"
    />
    <path v-for="curve in curves(view)" :key="curve" :d="curve" class="solid outside" />
    <rect
      v-for="gap in answer.passages"
      :key="gap.name"
      v-bind="layout.rect(view, gap.min_mm, gap.max_mm)"
      class="solid passage"
    >
      <title>{{ gap.name }}: for wires alone</title>
    </rect>
    <g v-if="answer.seam_mm != null && view.key !== 'top'" class="seam">
      <path
        :d="`M${view.x} ${layout.py(view, answer.seam_mm)}H${layout.px(view, layout.size[view.across]! + layout.wall)}`"
      />
      <text
        v-if="view.key === 'front'"
        :x="layout.px(view, layout.size[view.across]! + layout.wall) + 4"
        :y="layout.py(view, answer.seam_mm) + 4"
      >
        seam
      </text>
    </g>
  </g>
</template>

<style scoped>
text {
  fill: var(--ink2);
}
.wall {
  fill: var(--old);
  stroke: var(--ink3);
  opacity: 0.55;
}
.wall.assumed {
  stroke-dasharray: 5 4;
  fill-opacity: 0.4;
}
.room {
  fill: var(--sheet);
}
.open {
  fill: none;
  stroke: var(--copper);
  stroke-width: 3;
  stroke-dasharray: 8 5;
}
.solid.passage {
  fill: var(--sheet);
  stroke: var(--copper);
  stroke-dasharray: 3 2;
}
.solid.outside {
  fill: var(--old);
  stroke: none;
  opacity: 0.9;
}
.seam path {
  fill: none;
  stroke: var(--ink2);
  stroke-dasharray: 9 3 2 3;
}
.solid.room {
  fill: var(--sheet);
  stroke: var(--ink3);
}
</style>
