<script setup lang="ts">
/** How the meter is joined up, drawn from data: plus whole, minus dashed, lengths with a bar at each end. */
import type { Guide } from '@/api/client'

defineProps<{ picture: Guide['picture']; label: string }>()
type Symbol = Guide['picture']['symbols'][number]
type Lead = Guide['picture']['leads'][number]

const path = (lead: Lead) => 'M' + lead.points.map((point) => point.join(' ')).join('L')
const middle = (lead: Lead) => {
  const at = Math.floor((lead.points.length - 1) / 2)
  const [one, other] = [lead.points[at]!, lead.points[at + 1]!]
  return { x: (one[0]! + other[0]!) / 2, y: (one[1]! + other[1]!) / 2 - 5 }
}
const UNDER = new Set(['resistor', 'jack', 'caliper', 'strip'])
const outside = ({ kind }: Symbol) => UNDER.has(kind) || kind === 'capacitor'
/** Under it, or beside it where its lead runs on below. */
const labelAt = (symbol: Symbol) =>
  symbol.kind === 'capacitor'
    ? { x: symbol.x + symbol.wide / 2 + 5, y: symbol.y + 4, 'text-anchor': 'start' as const }
    : { x: symbol.x, y: symbol.y + symbol.high / 2 + 12, 'text-anchor': 'middle' as const }
</script>

<template>
  <svg class="guide w-full max-w-440 bg-sheet" viewBox="0 0 320 150" role="img" :aria-label="label">
    <g v-for="(lead, index) in picture.leads" :key="`l${index}`">
      <path :class="['lead', lead.role]" :d="path(lead)" />
      <text v-if="lead.says" v-bind="middle(lead)" text-anchor="middle">{{ lead.says }}</text>
    </g>
    <g
      v-for="(symbol, index) in picture.symbols"
      :key="`s${index}`"
      :class="['symbol', { meter: symbol.kind === 'meter' }]"
      :transform="`translate(${symbol.x - symbol.wide! / 2} ${symbol.y - symbol.high! / 2})`"
    >
      <rect v-if="symbol.kind !== 'capacitor'" :width="symbol.wide" :height="symbol.high" rx="3" />
      <path v-if="symbol.kind === 'battery'" class="mark" :d="`M${symbol.wide! - 9} 6v6m-3 -3h6M6 9h6`" />
      <path
        v-if="symbol.kind === 'capacitor'"
        :d="`M${symbol.wide! / 2} 0v9M0 9h${symbol.wide}M0 15h${symbol.wide}M${symbol.wide! / 2} 15v9`"
      />
      <path
        v-if="symbol.kind === 'caliper'"
        :d="`M${symbol.wide! / 2 - 36} ${symbol.high}v70h-10v-70M${symbol.wide! / 2 + 36} ${symbol.high}v70h10v-70`"
      />
      <circle v-if="symbol.kind === 'jack'" :cx="symbol.wide! - 8" :cy="symbol.high! / 2" r="5" />
      <text
        v-if="symbol.says && !outside(symbol)"
        :x="symbol.wide! / 2"
        :y="symbol.high! / 2 + 4"
        text-anchor="middle"
      >
        {{ symbol.says }}
      </text>
    </g>
    <template v-for="(symbol, index) in picture.symbols" :key="`t${index}`">
      <text v-if="symbol.says && outside(symbol)" v-bind="labelAt(symbol)">
        {{ symbol.says }}
      </text>
    </template>
  </svg>
</template>

<style scoped>
.guide text {
  fill: var(--ink);
  font-size: 11px;
}
.symbol :is(rect, circle),
.symbol > path {
  fill: var(--paper);
  stroke: var(--ink2);
  stroke-width: 1.4;
}
.meter rect {
  fill: var(--copperwash);
  stroke: var(--copper);
}
.meter text {
  font-weight: 700;
  font-size: 15px;
}
.lead {
  fill: none;
  stroke: var(--copper);
  stroke-width: 1.6;
}
.lead.minus {
  stroke: var(--ink);
  stroke-dasharray: 5 3;
}
.lead.arrow {
  stroke: var(--note);
  stroke-width: 1;
}
</style>
