<script setup lang="ts">
/** Boards to scale in one row, wires in tracks above and below. A net lights up when touched; a pad may be picked. */
import { computed, ref } from 'vue'

import type { WiringReply } from '@/api/client'
import { lineOf, NETS } from '@/drawings/nets'

type Drawing = WiringReply['drawing']
const props = defineProps<{
  drawing: Drawing
  trace: '' | 'charging' | 'running'
  picked?: string
  accused?: string[]
  /** Letters of the wires of the work in hand: all else is faint. None: all of them. */
  lit?: string[]
  /** Letters of wires that are on. */
  soldered?: string[]
  /** What flows in each wire, by `start end`: told in the place of its letter. Over what it bears it is `over`. */
  flows?: Map<string, { text: string; share: number; over: boolean }>
  /** Volts at each pad, told once for each wire. */
  voltages?: Map<string, string>
  /** Two pads that meet, and what flows there. */
  bridge?: { start: string; end: string; text: string }
}>()
const emit = defineEmits<{ pick: [pad: string]; wire: [start: string, end: string]; part: [key: string] }>()

const touched = ref(-1)
const netOf = computed(() => {
  const nets = new Map<string, number>()
  props.drawing.nets.forEach((net, index) => net.pads.forEach((pad) => nets.set(pad, index)))
  return nets
})
const lit = (net: number) => {
  if (touched.value >= 0) return touched.value === net
  if (props.trace) return props.drawing.nets[net]![props.trace]
  return true
}
const bright = (wire: Drawing['wires'][number]) =>
  lit(wire.net) && (!props.lit || props.lit.includes(wire.letter))
const flowIn = (wire: Drawing['wires'][number]) => props.flows?.get(`${wire.start} ${wire.end}`)
/** A wire is drawn the wider the more flows in it, and one that carries nothing is thin. */
const widthOf = (wire: Drawing['wires'][number]) => {
  const flow = flowIn(wire)
  return flow ? { strokeWidth: flow.text ? 0.8 + 0.8 * flow.share : 0.35 } : undefined
}
const bridged = computed(() => {
  const pads = props.drawing.parts.flatMap((part) => part.pads)
  const [start, end] = [props.bridge?.start, props.bridge?.end].map((name) =>
    pads.find((p) => p.name === name),
  )
  return start && end ? ([start, end] as const) : undefined
})
const points = (wire: Drawing['wires'][number]) => wire.xs.map((x, i) => `${x},${wire.ys[i]}`).join(' ')
const roles = computed(() => [...new Set(props.drawing.nets.map((net) => net.role))])
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Hook-up drawing">
    <svg
      class="block w-full min-w-[calc(var(--units)*2.4px)] narrow:min-w-[calc(var(--units)*4px)] text-[3.1px] font-sans"
      :viewBox="`0 0 ${drawing.width} ${drawing.height}`"
      :style="{ '--units': drawing.width }"
      role="group"
      aria-label="Hook-up"
    >
      <g v-for="part in drawing.parts" :key="part.key" class="part" @click="emit('part', part.key)">
        <rect :x="part.x" :y="part.y" :width="part.width" :height="part.height" rx="1" />
        <text :x="part.name_x" :y="part.y + part.height / 2 + 0.6" class="name">
          {{ part.key.replaceAll('_', ' ') }}
        </text>
        <rect
          v-for="(mark, index) in part.marks"
          :key="index"
          :class="['mark', mark.what]"
          :x="mark.x"
          :y="mark.y"
          :width="mark.width"
          :height="mark.height"
          rx="0.4"
        />
        <title>{{ part.name }}</title>
      </g>
      <polyline
        v-for="wire in drawing.wires"
        :key="wire.start + wire.end"
        :points="points(wire)"
        v-bind="lineOf(drawing.nets[wire.net]!.role)"
        :class="[
          'wire',
          {
            present: wire.present,
            dim: !bright(wire),
            soldered: soldered?.includes(wire.letter),
            over: flowIn(wire)?.over,
          },
        ]"
        :style="widthOf(wire)"
        @mouseenter="touched = wire.net"
        @mouseleave="touched = -1"
        @click="flows ? emit('wire', wire.start, wire.end) : (touched = touched === wire.net ? -1 : wire.net)"
      />
      <g
        v-for="wire in drawing.wires"
        :key="`letter ${wire.start}${wire.end}`"
        :class="{ dim: !bright(wire) }"
      >
        <text
          v-if="flows"
          :x="wire.letter_x"
          :y="wire.letter_y - 0.8"
          :class="['letter', { over: flowIn(wire)?.over }]"
        >
          {{ flowIn(wire)?.text }}
        </text>
        <text v-if="voltages" :x="wire.letter_x" :y="wire.letter_y + 3.8" class="letter volts">
          {{ voltages.get(wire.start) }}
        </text>
        <text v-if="!flows && wire.letter" :x="wire.letter_x" :y="wire.letter_y - 0.8" class="letter">
          {{ wire.letter }}{{ soldered?.includes(wire.letter) ? ' ✓' : '' }}
        </text>
      </g>
      <template v-for="part in drawing.parts" :key="`pads ${part.key}`">
        <g
          v-for="pad in part.pads"
          :key="pad.name"
          :class="[
            'pad',
            {
              picked: pad.name === picked,
              accused: accused?.includes(pad.name),
              dim: !lit(netOf.get(pad.name) ?? -1),
            },
          ]"
          tabindex="0"
          role="button"
          :aria-label="voltages ? `pad ${pad.name}, ${voltages.get(pad.name)}` : `pad ${pad.name}`"
          :aria-pressed="pad.name === picked"
          @click="emit('pick', pad.name)"
          @keydown.enter="emit('pick', pad.name)"
          @mouseenter="touched = netOf.get(pad.name) ?? -1"
          @mouseleave="touched = -1"
        >
          <circle class="around" :cx="pad.x" :cy="pad.y" r="3" />
          <circle :cx="pad.x" :cy="pad.y" r="1.5" />
          <text :x="pad.label_x" :y="pad.label_y" :text-anchor="pad.label_anchor">{{ pad.label }}</text>
        </g>
      </template>
      <g v-if="bridge && bridged" class="bridge">
        <line :x1="bridged[0].x" :y1="bridged[0].y" :x2="bridged[1].x" :y2="bridged[1].y" />
        <text
          :x="(bridged[0].x + bridged[1].x) / 2"
          :y="(bridged[0].y + bridged[1].y) / 2 - 3"
          class="letter over"
        >
          {{ bridge.text }}
        </text>
      </g>
    </svg>
  </div>
  <ul class="key flex flex-wrap gap-y-4 gap-x-20 mx-0 mt-6 mb-0 p-0 list-none text-small" aria-label="Nets">
    <li v-for="role in roles" :key="role">
      <svg class="inline-block w-34 mr-6 text-[3.1px] font-sans" width="34" height="8" aria-hidden="true">
        <path d="M0 4H34" class="wire" v-bind="lineOf(role)" /></svg
      >{{ NETS[role].says }}
    </li>
  </ul>
</template>

<style scoped>
.part > rect:first-child {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 0.35;
}
text {
  fill: var(--ink);
}
.name,
.letter {
  text-anchor: middle;
}
.name {
  font-weight: 600;
  font-size: 3.4px;
}
.wire {
  fill: none;
  stroke-width: 0.9;
  cursor: pointer;
}
.key .wire {
  stroke-width: 2.4;
}
.wire.present {
  stroke-width: 0.4;
}
.dim {
  opacity: 0.18;
}
.mark {
  fill: var(--ink3);
  stroke: none;
}
.mark.socket {
  fill: var(--line2);
  stroke: var(--ink2);
  stroke-width: 0.3;
}
.mark.resistor {
  fill: var(--copper);
}
.mark.tape {
  fill: var(--lithium);
}
.letter {
  font-weight: 700;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 1.2;
}
.wire.over {
  stroke: var(--stop);
  stroke-dasharray: none;
}
.letter.over {
  fill: var(--stop);
}
.letter.volts {
  fill: var(--ink2);
  font-weight: 400;
}
.bridge line {
  stroke: var(--stop);
  stroke-width: 1.6;
}
.wire.soldered {
  stroke-width: 1.5;
}
.pad {
  cursor: pointer;
}
.pad circle:not(.around) {
  fill: var(--ink);
}
/* A finger is wider than a pad. */
.pad .around {
  fill: transparent;
  stroke: none;
}
.pad text {
  font-size: 2.8px;
}
.pad.picked circle:not(.around) {
  fill: var(--copper);
  stroke: var(--copper);
  stroke-width: 1.4;
}
.pad.accused circle:not(.around) {
  fill: var(--stop);
  stroke: var(--stop);
  stroke-width: 1.6;
}
</style>
