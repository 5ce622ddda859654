<script setup lang="ts">
/** One scale of volts: what the old batteries gave, what the lithium cell gives, laid over where the gadget works. */
import { computed, ref } from 'vue'

import type { RulerBand, WindowSummary } from '@/api/client'
import { useWidth } from '@/drawings/useWidth'
import { t } from '@/words'

const props = defineProps<{ bands: readonly RulerBand[]; window: WindowSummary }>()

const box = ref<HTMLElement>()
const width = useWidth(box)

const ROW = 34
const TOP = 26
const narrow = computed(() => width.value < 560)
const left = computed(() => (narrow.value ? 8 : 150))
const right = computed(() => (narrow.value ? 8 : 170))
const bottom = computed(() => TOP + props.bands.length * ROW + 4)

const range = computed<[number, number]>(() => {
  const all = [
    props.window.v_run_min.value,
    props.window.v_abs_max.value,
    ...props.bands.flatMap((b) => [b.low_v, b.high_v]),
  ]
  const low = Math.max(0, Math.floor(Math.min(...all) - 0.5))
  return [low, Math.ceil(Math.max(...all) + 0.3)]
})

const x = (volts: number) => {
  const [low, high] = range.value
  return left.value + ((volts - low) / (high - low)) * Math.max(width.value - left.value - right.value, 10)
}

const ticks = computed(() => {
  const [low, high] = range.value
  const step = high - low > 8 ? 0.5 : 0.1
  return Array.from({ length: Math.round((high - low) / step) + 1 }, (_, i) => {
    const volts = low + i * step
    const nearest = Math.round(volts)
    return {
      volts,
      whole: Math.abs(volts - nearest) < 0.01,
      half: Math.abs(volts * 2 - Math.round(volts * 2)) < 0.01,
    }
  })
})

const works = computed(() => {
  const [from, to] = [x(props.window.v_run_min.value), x(props.window.v_abs_max.value)]
  return { from, to, middle: (from + to) / 2, roomy: to - from > 120 }
})

const soft = (basis: string) => basis === 'inferred' || basis === 'default'
const spoken = computed(
  () =>
    t('The gadget works from {v_run_min} to {v_abs_max}. ', {
      v_run_min: props.window.v_run_min.text,
      v_abs_max: props.window.v_abs_max.text,
    }) +
    props.bands
      .map((band) => t('{label}: {detail} volts.', { label: band.label, detail: band.detail }))
      .join(' '),
)
</script>

<template>
  <div ref="box" class="min-h-120">
    <svg
      v-if="width"
      class="block text-small font-sans"
      :width="width"
      :height="bottom + 26"
      role="img"
      :aria-label="spoken"
    >
      <rect
        :x="works.from"
        y="0"
        :width="Math.max(works.to - works.from, 1)"
        :height="bottom"
        class="works"
      />
      <line
        :x1="works.from"
        :x2="works.from"
        y1="0"
        :y2="bottom"
        :class="['edge', { soft: soft(window.min_basis) }]"
      />
      <line
        :x1="works.to"
        :x2="works.to"
        y1="0"
        :y2="bottom"
        :class="['edge', { soft: soft(window.max_basis) }]"
      />
      <text v-if="works.roomy" :x="works.middle" y="16" class="works-name">the gadget works here</text>
      <text v-else :x="works.to + 6" y="16" class="works-name beside">works here</text>
      <g v-for="(band, row) in bands" :key="band.label" :transform="`translate(0 ${TOP + row * ROW})`">
        <text v-if="!narrow" x="0" y="18" class="font-semibold">{{ band.label }}</text>
        <rect
          :x="x(band.low_v)"
          y="2"
          :width="Math.max(x(band.high_v) - x(band.low_v), 3)"
          height="22"
          :class="band.kind"
        />
        <text v-if="!narrow" :x="width - right + 14" y="18" class="detail">{{ band.detail }} V</text>
        <text v-else :x="x(band.low_v) + 4" y="17" class="text-fine">
          {{ band.label }}: {{ band.detail }} V
        </text>
      </g>
      <line :x1="x(range[0])" :x2="x(range[1])" :y1="bottom" :y2="bottom" class="axis" />
      <template v-for="tick in ticks" :key="tick.volts">
        <line
          :x1="x(tick.volts)"
          :x2="x(tick.volts)"
          :y1="bottom"
          :y2="bottom + (tick.whole ? 8 : tick.half ? 5 : 3)"
          class="axis"
        />
        <text v-if="tick.whole" :x="x(tick.volts)" :y="bottom + 22" class="volts">
          {{ Math.round(tick.volts) }} V
        </text>
      </template>
    </svg>
  </div>
</template>

<style scoped>
text {
  fill: var(--ink);
}
.works {
  fill: var(--band);
  opacity: 0.45;
}
.edge {
  stroke: var(--pass);
  stroke-width: 1.8;
}
.soft {
  stroke-dasharray: 3 3;
}
.works-name {
  fill: var(--pass);
  font-weight: 600;
  text-anchor: middle;
}
.beside {
  text-anchor: start;
}
.detail,
.volts {
  fill: var(--ink2);
}
.volts {
  text-anchor: middle;
}
.axis {
  stroke: var(--ink3);
}
.old {
  fill: var(--old);
}
.lithium {
  fill: var(--lithium);
}
.gadget {
  fill: var(--copper);
}
</style>
