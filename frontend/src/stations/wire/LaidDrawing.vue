<script setup lang="ts">
/** The wiring as it lies in the bay, from above: parts in their places, each wire from pad to pad. */
import { computed } from 'vue'

import type { WiringReply } from '@/api/client'
import { lineOf } from '@/drawings/nets'

const props = defineProps<{ reply: WiringReply; trace: '' | 'charging' | 'running' }>()
const laid = computed(() => props.reply.laid!)
const EDGE_MM = 3
/** Letters and lines are as large in a small bay as in a large one. */
const unit = computed(() => Math.max(laid.value.width, 1.6 * laid.value.height) / 100)

/** Dashes are told in mm of the other picture. */
const dashed = (dashes: string | undefined) =>
  dashes
    ?.split(' ')
    .map((mm) => Number(mm) * 0.6 * unit.value)
    .join(' ')

const wires = computed(() => {
  const { wires, nets } = props.reply.drawing
  return laid.value.wires.map((wire) => {
    const net = nets[wires.find(({ letter }) => letter === wire.letter)!.net]!
    return {
      ...wire,
      line: { ...lineOf(net.role), 'stroke-dasharray': dashed(lineOf(net.role)['stroke-dasharray']) },
      dim: Boolean(props.trace && !net[props.trace]),
    }
  })
})
</script>

<template>
  <svg
    class="block w-full max-h-460 font-sans"
    :font-size="2.6 * unit"
    :viewBox="`${-EDGE_MM} ${-EDGE_MM} ${laid.width + 2 * EDGE_MM} ${laid.height + 2 * EDGE_MM}`"
    role="img"
    aria-label="The wiring as it lies in the bay, from above"
  >
    <rect
      :width="laid.width"
      :height="laid.height"
      fill="var(--sheet)"
      stroke="var(--ink2)"
      :stroke-width="0.4 * unit"
    />
    <g v-for="part in laid.parts" :key="part.name">
      <title>{{ part.name }}</title>
      <rect
        v-bind="{ x: part.x, y: part.y, width: part.width, height: part.height }"
        :rx="0.6 * unit"
        :fill="part.kind === 'cell' ? 'var(--lithium)' : 'var(--band)'"
        fill-opacity="0.75"
        stroke="var(--ink)"
        :stroke-width="0.2 * unit"
      />
    </g>
    <g v-for="{ letter, line, dim, ...ends } in wires" :key="letter" :opacity="dim ? 0.18 : 1">
      <line
        :x1="ends.start_x"
        :y1="ends.start_y"
        :x2="ends.end_x"
        :y2="ends.end_y"
        v-bind="line"
        :stroke-width="0.6 * unit"
      />
      <text
        :x="(ends.start_x + ends.end_x) / 2"
        :y="(ends.start_y + ends.end_y) / 2 - 0.5 * unit"
        text-anchor="middle"
        font-weight="700"
        fill="var(--ink)"
        stroke="var(--paper)"
        :stroke-width="0.6 * unit"
        paint-order="stroke"
      >
        {{ letter }}
      </text>
    </g>
    <g v-for="pad in laid.pads" :key="pad.name">
      <circle :cx="pad.x" :cy="pad.y" :r="0.75 * unit" fill="var(--ink)" />
      <text
        :x="pad.x"
        :y="pad.y + 2.6 * unit"
        text-anchor="middle"
        :font-size="1.9 * unit"
        fill="var(--ink)"
        stroke="var(--paper)"
        :stroke-width="0.4 * unit"
        paint-order="stroke"
      >
        {{ pad.label }}
      </text>
    </g>
  </svg>
</template>
