<script setup lang="ts">
/**
 * The bay and what lies in it, drawn to one scale from above, from the front and from the side, with its measures.
 * A part may be picked; in the view from above it may be dragged to a place, which pins it there.
 */
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'

import type { FitAnswer, Placement } from '@/api/client'

const props = defineProps<{ answer: FitAnswer; picked: string; unit: 'mm' | 'in' }>()
const emit = defineEmits<{ pick: [part: string]; place: [part: string, at: [number, number, number]] }>()

const box = ref<HTMLElement>()
const { width } = useElementSize(box)

type Axis = 0 | 1 | 2
type Point = readonly number[]
interface View {
  key: string
  title: string
  across: Axis
  up: Axis
  flip: boolean
  x: number
  y: number
}

const MARGIN = 30
const BETWEEN = 56
const SNAP_MM = 0.5
const wall = computed(() => props.answer.wall_mm)
const size = computed(() => props.answer.size_mm as Point)
const narrow = computed(() => width.value < 420)

/** Pixels for a millimetre, so that front and side stand beside each other. */
const scale = computed(() => {
  const [x, y, z] = size.value as [number, number, number]
  const walls = 2 * wall.value
  const wide = narrow.value ? x + walls : x + y + 2 * walls
  const room = width.value - 2 * MARGIN - (narrow.value ? 0 : BETWEEN)
  return Math.max(Math.min(room / wide, 300 / (y + z + 2 * walls), 7), 0.4)
})

const views = computed<View[]>(() => {
  const [x, y, z] = size.value as [number, number, number]
  const s = scale.value
  const w2 = 2 * wall.value * s
  const top = { key: 'top', title: 'from above', across: 0, up: 1, flip: true, x: MARGIN, y: 24 } as View
  const second = top.y + y * s + w2 + BETWEEN
  const front = {
    key: 'front',
    title: 'from the front',
    across: 0,
    up: 2,
    flip: true,
    x: MARGIN,
    y: second,
  } as View
  const side = {
    key: 'side',
    title: 'from the left',
    across: 1,
    up: 2,
    flip: true,
    x: narrow.value ? MARGIN : MARGIN + x * s + w2 + BETWEEN,
    y: narrow.value ? second + z * s + w2 + BETWEEN : second,
  } as View
  return [top, front, side]
})
const height = computed(() => {
  const last = views.value[2]!
  return last.y + (size.value[2]! + 2 * wall.value) * scale.value + 44
})

const px = (view: View, mm: number) => view.x + (mm + wall.value) * scale.value
const py = (view: View, mm: number) => view.y + (size.value[view.up]! - mm + wall.value) * scale.value

function rect(view: View, low: Point, high: Point) {
  return {
    x: px(view, low[view.across]!),
    y: py(view, high[view.up]!),
    width: Math.max((high[view.across]! - low[view.across]!) * scale.value, 0),
    height: Math.max((high[view.up]! - low[view.up]!) * scale.value, 0),
  }
}

/** What troughs and rounded corners take of a room's box, as filled paths, where a view shows their curves. */
function curves(view: View): string[] {
  const arc = (mm: number, sweep: 0 | 1) => `A${mm * scale.value} ${mm * scale.value} 0 0 ${sweep} `
  return (props.answer.shapes ?? []).flatMap(({ min_mm, max_mm, troughs, corner_mm }) => {
    const [x0, x1] = [px(view, min_mm[view.across]!), px(view, max_mm[view.across]!)]
    const [y0, y1] = [py(view, min_mm[view.up]!), py(view, max_mm[view.up]!)]
    if (view.key === 'side' && troughs) {
      const radius = (max_mm[1]! - min_mm[1]!) / troughs / 2
      const ridge = y0 - radius * scale.value
      const arcs = Array.from({ length: troughs }, (_, i) => {
        return `${arc(radius, 0)}${x0 + 2 * radius * (i + 1) * scale.value} ${ridge}`
      })
      return [`M${x0} ${y0}V${ridge}${arcs.join('')}V${y0}Z`]
    }
    const c = corner_mm * scale.value
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

const isRound = (view: View, part: Placement) => part.round && view.key === 'side'

/** What is not bay lies undermost: from above, nothing of the case hides a space that lies deeper. */
const layers = computed(() => {
  const solids = props.answer.solids ?? []
  const outside = solids.filter(({ state }) => state === 'outside')
  return [...outside, ...(props.answer.rooms ?? []), ...solids.filter(({ state }) => state !== 'outside')]
})
/** Parts farther from the eye first. */
function ordered(view: View): Placement[] {
  const away: Axis = view.key === 'top' ? 2 : view.key === 'front' ? 1 : 0
  const order = [...(props.answer.placements ?? [])].sort((a, b) => a.max_mm[away]! - b.max_mm[away]!)
  return view.key === 'top' ? order : order.reverse()
}

/** Letters on the drawing, names beside it: long names never fit into a 5 mm part. */
const letters = computed(
  () => new Map((props.answer.placements ?? []).map((part, i) => [part.part, String.fromCharCode(65 + i)])),
)

const SIDES_IN: Record<string, [string, string, string, string]> = {
  top: ['left', 'right', 'front', 'back'],
  front: ['left', 'right', 'floor', 'lid'],
  side: ['front', 'back', 'floor', 'lid'],
}
/** Line of an opened wall in a view. */
function openLines(view: View) {
  const [west, east, south, north] = SIDES_IN[view.key]!
  const open = props.answer.open_sides ?? []
  const a = size.value[view.across]!
  const u = size.value[view.up]!
  const w = wall.value / 2
  const lines: [string, number, number, number, number][] = [
    [west, -w, 0, -w, u],
    [east, a + w, 0, a + w, u],
    [south, 0, -w, a, -w],
    [north, 0, u + w, a, u + w],
  ]
  return lines.filter(([side]) => (open as string[]).includes(side))
}

const tightest = computed(() => (props.answer.gaps ?? []).slice(0, 3))
const shownIn = (view: View, gap: { start_mm: Point; end_mm: Point }) =>
  Math.abs(gap.start_mm[view.across]! - gap.end_mm[view.across]!) > 1e-6 ||
  Math.abs(gap.start_mm[view.up]! - gap.end_mm[view.up]!) > 1e-6

const figure = (mm: number) =>
  props.unit === 'in' ? `${(mm / 25.4).toFixed(3)} in` : `${mm.toFixed(Math.abs(mm) < 10 ? 1 : 0)}`

// Dragging in the view from above ---------------------------------------------------------------------------------

const dragged = ref<{ part: Placement; x: number; y: number; dx: number; dy: number }>()

function down(event: PointerEvent, view: View, part: Placement): void {
  emit('pick', part.part)
  if (view.key !== 'top' || props.answer.tube_mm) return
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  dragged.value = { part, x: event.clientX, y: event.clientY, dx: 0, dy: 0 }
}

function move(event: PointerEvent): void {
  if (!dragged.value) return
  const snap = (pixels: number) => Math.round(pixels / scale.value / SNAP_MM) * SNAP_MM
  dragged.value.dx = snap(event.clientX - dragged.value.x)
  dragged.value.dy = -snap(event.clientY - dragged.value.y)
}

function up(): void {
  const drag = dragged.value
  dragged.value = undefined
  if (!drag || (drag.dx === 0 && drag.dy === 0)) return
  const round = (mm: number) => Math.round(mm / SNAP_MM) * SNAP_MM
  const [x, y, z] = drag.part.min_mm as [number, number, number]
  emit('place', drag.part.part, [round(x + drag.dx), round(y + drag.dy), Math.round(z * 100) / 100])
}

const shift = (view: View, part: Placement) =>
  dragged.value?.part.part === part.part && view.key === 'top'
    ? `translate(${dragged.value.dx * scale.value} ${-dragged.value.dy * scale.value})`
    : undefined
</script>

<template>
  <div ref="box">
    <svg
      v-if="width"
      class="block text-fine font-sans touch-pan-y"
      :width="width"
      :height="height"
      role="img"
      aria-label="Bay from above, front and side"
    >
      <defs>
        <pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V6" class="hatch" />
        </pattern>
      </defs>
      <g v-for="view in views" :key="view.key">
        <text :x="view.x" :y="view.y - 8" class="font-semibold">{{ view.title }}</text>
        <template v-if="answer.tube_mm && view.key === 'side'">
          <circle
            :cx="px(view, size[1]! / 2)"
            :cy="py(view, size[2]! / 2)"
            :r="(size[1]! / 2 + wall) * scale"
            :class="['wall', { assumed: answer.assumed_bay }]"
          />
          <circle
            :cx="px(view, size[1]! / 2)"
            :cy="py(view, size[2]! / 2)"
            :r="(size[1]! / 2) * scale"
            class="room"
          />
        </template>
        <template v-else>
          <rect
            :x="view.x"
            :y="view.y"
            :width="(size[view.across]! + 2 * wall) * scale"
            :height="(size[view.up]! + 2 * wall) * scale"
            :class="['wall', { assumed: answer.assumed_bay }]"
          />
          <rect
            :x="px(view, 0)"
            :y="py(view, size[view.up]!)"
            :width="size[view.across]! * scale"
            :height="size[view.up]! * scale"
            class="room"
          />
          <line
            v-for="[side, x1, y1, x2, y2] in openLines(view)"
            :key="side"
            :x1="px(view, x1)"
            :y1="py(view, y1)"
            :x2="px(view, x2)"
            :y2="py(view, y2)"
            class="open"
          />
        </template>
        <rect
          v-for="(solid, i) in layers"
          :key="i"
          v-bind="rect(view, solid.min_mm, solid.max_mm)"
          :class="['solid', solid.state]"
        />
        <path v-for="curve in curves(view)" :key="curve" :d="curve" class="solid outside" />
        <rect
          v-for="gap in answer.passages"
          :key="gap.name"
          v-bind="rect(view, gap.min_mm, gap.max_mm)"
          class="solid passage"
        >
          <title>{{ gap.name }}: for wires alone</title>
        </rect>
        <g
          v-for="part in ordered(view)"
          :key="part.part"
          :class="['part', part.kind, { picked: part.part === picked, pinned: part.pinned }]"
          :transform="shift(view, part)"
          @pointerdown="down($event, view, part)"
          @pointermove="move"
          @pointerup="up"
        >
          <ellipse
            v-if="isRound(view, part)"
            :cx="px(view, (part.min_mm[1]! + part.max_mm[1]!) / 2)"
            :cy="py(view, (part.min_mm[2]! + part.max_mm[2]!) / 2)"
            :rx="((part.max_mm[1]! - part.min_mm[1]!) / 2) * scale"
            :ry="((part.max_mm[2]! - part.min_mm[2]!) / 2) * scale"
          />
          <rect v-else v-bind="rect(view, part.min_mm, part.max_mm)" rx="1.5" />
          <text
            :x="px(view, (part.min_mm[view.across]! + part.max_mm[view.across]!) / 2)"
            :y="py(view, (part.min_mm[view.up]! + part.max_mm[view.up]!) / 2) + 5"
          >
            {{ letters.get(part.part) }}
          </text>
        </g>
        <template v-for="gap in tightest" :key="`${gap.first} ${gap.second}`">
          <g v-if="shownIn(view, gap)" class="gap">
            <line
              :x1="px(view, gap.start_mm[view.across]!)"
              :y1="py(view, gap.start_mm[view.up]!)"
              :x2="px(view, gap.end_mm[view.across]!)"
              :y2="py(view, gap.end_mm[view.up]!)"
            />
            <text
              :x="px(view, gap.end_mm[view.across]!) + 3"
              :y="py(view, gap.end_mm[view.up]!) + (view.key === 'top' ? -3 : 12)"
            >
              {{ figure(gap.mm) }}
            </text>
          </g>
        </template>
        <!-- overall measures, outside the walls -->
        <g class="measure">
          <path
            :d="`M${px(view, 0)} ${view.y + (size[view.up]! + 2 * wall) * scale + 12}H${px(view, size[view.across]!)}`"
          />
          <text
            :x="px(view, size[view.across]! / 2)"
            :y="view.y + (size[view.up]! + 2 * wall) * scale + 26"
            class="middle"
          >
            {{ figure(size[view.across]!) }}
          </text>
          <path :d="`M${view.x - 10} ${py(view, 0)}V${py(view, size[view.up]!)}`" />
          <text
            :transform="`translate(${view.x - 14} ${py(view, size[view.up]! / 2)}) rotate(-90)`"
            class="middle"
          >
            {{ figure(size[view.up]!) }}
          </text>
        </g>
      </g>
    </svg>
    <ol
      class="key flex flex-wrap gap-y-2 gap-x-18 mx-0 mt-4 mb-0 p-0 list-none"
      aria-label="Parts in the drawing"
    >
      <li v-for="part in answer.placements" :key="part.part">
        <button
          class="px-4 py-2"
          type="button"
          :class="['bare', { 'is-current': part.part === picked }]"
          :aria-pressed="part.part === picked"
          @click="emit('pick', part.part)"
        >
          <b class="inline-block min-w-18 text-center" :class="part.kind">{{ letters.get(part.part) }}</b>
          {{ part.part }}
          <small class="text-ink2">{{ part.turned }}{{ part.pinned ? ', pinned' : '' }}</small>
        </button>
      </li>
    </ol>
  </div>
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
  stroke: var(--copper);
  stroke-width: 3;
  stroke-dasharray: 8 5;
}
.hatch {
  stroke: var(--ink3);
  stroke-width: 1.2;
}
.solid {
  fill: url(#hatch);
  stroke: var(--ink3);
}
.solid.room {
  fill: var(--sheet);
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
.solid.trim {
  stroke: var(--copper);
  stroke-dasharray: 3 2;
}
.part {
  cursor: pointer;
}
.part rect,
.part ellipse {
  fill: var(--lithium);
  fill-opacity: 0.75;
  stroke: var(--ink);
  stroke-width: 1.2;
}
.part.board rect {
  fill: var(--band);
  fill-opacity: 0.85;
}
.part:not(.cell, .board) rect {
  fill: var(--old);
}
.part.picked rect,
.part.picked ellipse {
  stroke: var(--copper);
  stroke-width: 2.6;
}
.part.pinned rect {
  stroke-dasharray: 1 0;
}
.part text {
  fill: var(--ink);
  font-weight: 700;
  text-anchor: middle;
  pointer-events: none;
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
.key button:hover,
.key button.is-current {
  background: var(--copperwash);
}
.key b.cell {
  background: var(--lithium);
  color: var(--ink);
}
.key b.board {
  background: var(--band);
}
</style>
