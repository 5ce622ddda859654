<script setup lang="ts">
/**
 * The bay and what lies in it, drawn to one scale from above, from the front and from the side, with its measures.
 * Where it may be changed, parts and obstacles are moved by hand, and an obstacle is drawn where it stands.
 */
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'

import type { FitAnswer, Placement } from '@/api/client'
import { NEW, useDragged, type Dragged } from '@/drawings/useDragged'
import { useViewLayout, type Axis, type Point, type View } from '@/drawings/useViewLayout'

const props = defineProps<{
  answer: FitAnswer
  picked: string
  unit: 'mm' | 'in'
  /** Parts and obstacles can be moved; `drawing`: the next box that is drawn from above is an obstacle. */
  changes?: boolean
  drawing?: boolean
}>()
const emit = defineEmits<{
  pick: [part: string]
  place: [part: string, at: [number, number, number]]
  obstacle: [id: string, at: Point, size: Point]
}>()

const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const corner = ref<HTMLElement>()
const { height: cornerHeight } = useElementSize(corner)
const beside = computed(() => (hasCorner.value ? cornerHeight.value : 0))
const { narrow, wall, size, scale, views, height, px, py, mm, rect } = useViewLayout(
  () => props.answer,
  width,
  () => beside.value,
)

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

const SIDES_IN: Record<View['key'], [string, string, string, string]> = {
  top: ['left', 'right', 'front', 'back'],
  front: ['left', 'right', 'floor', 'lid'],
  side: ['front', 'back', 'floor', 'lid'],
}
/** The stretch of a wall that may be opened, in the views where that wall is seen from its edge. */
function openLines(view: View): [string, number, number, number, number][] {
  const [west, east, south, north] = SIDES_IN[view.key]
  const out = wall.value / 2
  return (props.answer.open_walls ?? []).flatMap(({ side, along_mm, up_mm }) => {
    const level = side === 'floor' || side === 'lid'
    const [from, to] = (view.key === 'top' || (level && view.key === 'front') ? along_mm : up_mm) as [
      number,
      number,
    ]
    const [a, u] = [size.value[view.across]!, size.value[view.up]!]
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
  const radius = size.value[1]! / 2 + wall.value / 2
  const view = views.value[2]!
  const [from, to] = [turn - 30, turn + 30].map((degrees) => {
    const angle = (degrees * Math.PI) / 180
    const middle = size.value[1]! / 2
    return [px(view, middle + radius * Math.cos(angle)), py(view, middle + radius * Math.sin(angle))]
  }) as [number[], number[]]
  const r = radius * scale.value
  return `M${from[0]} ${from[1]}A${r} ${r} 0 0 0 ${to[0]} ${to[1]}`
}

/** What stands behind a socket against the push of the plug: the far end of the board's box. */
function stopBox(part: Placement): [Point, Point] | undefined {
  if (!part.stop_mm || !part.face_side) return
  const axis = { left: 0, right: 0, front: 1, back: 1, floor: 2, lid: 2 }[part.face_side]
  const [low, high] = [[...part.min_mm], [...part.max_mm]]
  if (['left', 'front', 'floor'].includes(part.face_side)) low[axis] = high[axis]! - part.stop_mm
  else high[axis] = low[axis]! + part.stop_mm
  return [low, high]
}

const tightest = computed(() => (props.answer.gaps ?? []).slice(0, 3))
const shownIn = (view: View, gap: { start_mm: Point; end_mm: Point }) =>
  Math.abs(gap.start_mm[view.across]! - gap.end_mm[view.across]!) > 1e-6 ||
  Math.abs(gap.start_mm[view.up]! - gap.end_mm[view.up]!) > 1e-6

const figure = (mm: number) => (props.unit === 'in' ? `${(mm / 25.4).toFixed(3)} in` : mm.toFixed(1))

// By hand ---------------------------------------------------------------------------------------------------------

/** Walls, and the faces of what stands and lies there. */
function edges(axis: Axis, but: string): number[] {
  const solids = (props.answer.solids ?? []).filter(({ obstacle }) => !obstacle || obstacle !== but)
  const parts = (props.answer.placements ?? []).filter(({ part }) => part !== but)
  const faces = [...solids, ...parts].flatMap(({ min_mm, max_mm }) => [min_mm[axis]!, max_mm[axis]!])
  return [0, size.value[axis]!, ...faces]
}

const { dragged, begin, move, end, placed } = useDragged(mm, edges, done)

function done({ what, low, high, view }: Dragged): void {
  const spans = low.map((at, axis) => Math.round((high[axis]! - at) * 100) / 100)
  if (what !== NEW && !isObstacle(what)) emit('place', what, low as [number, number, number])
  else if (spans[view.across]! > 0 && spans[view.up]! > 0) emit('obstacle', what, low, spans)
}
const pickedObstacle = computed(() =>
  (props.answer.solids ?? []).filter(
    ({ obstacle }) => props.changes && obstacle && obstacle === props.picked,
  ),
)
const isObstacle = (what: string) => (props.answer.solids ?? []).some(({ obstacle }) => obstacle === what)

function down(event: PointerEvent, view: View, what: string, low: Point, high: Point, corner = false): void {
  emit('pick', what)
  if (!props.changes) return
  event.preventDefault()
  event.stopPropagation()
  begin(event, what, view, low, high, corner)
}

const NEW_HEIGHT_MM = 4
function draw(event: PointerEvent, view: View): void {
  if (!props.drawing || view.key !== 'top') return
  const { left, top } = box.value!.querySelector('svg')!.getBoundingClientRect()
  const x = placed(0, mm(event.clientX - left - px(view, 0)))
  const y = placed(1, mm(py(view, 0) - (event.clientY - top)))
  event.preventDefault()
  begin(event, NEW, view, [x, y, 0], [x, y, Math.min(NEW_HEIGHT_MM, size.value[2]!)], true)
}

/** Of a round part the ellipse, of any the place of its letter, of an obstacle the corner to drag. */
function round(view: View, low: Point, high: Point) {
  const { x, y, width: w, height: h } = rect(view, low, high)
  return { cx: x + w / 2, cy: y + h / 2, rx: w / 2, ry: h / 2 }
}
function middle(view: View, low: Point, high: Point) {
  const { x, y, width: w, height: h } = rect(view, low, high)
  return { x: x + w / 2, y: y + h / 2 + 5 }
}
const CORNER_PX = 14
function handle(view: View, low: Point, high: Point) {
  const { x, y, width: w } = rect(view, low, high)
  return { x: x + w - CORNER_PX / 2, y: y - CORNER_PX / 2, width: CORNER_PX, height: CORNER_PX }
}
/** Right of the view from above there is room for words, where the bay is no long one. */
const CORNER_LEAST_PX = 240
const hasCorner = computed(() => !narrow.value && width.value - views.value[2]!.x > CORNER_LEAST_PX)
/** Whether the figure at the left of a view is a field: a tube's diameter is one only once. */
const hasField = (view: View) =>
  props.changes && (view.key === 'top' || (view.key === 'front' && !props.answer.tube_mm))
/** Where the figure under a view stands. */
const below = (view: View) => view.y + (size.value[view.up]! + 2 * wall.value) * scale.value + 12

/** As it lies, or where it is being dragged. */
const boxOf = (what: string, low: Point, high: Point): [Point, Point] =>
  dragged.value?.what === what ? [dragged.value.low, dragged.value.high] : [low, high]
</script>

<template>
  <div ref="box" class="relative">
    <svg
      v-if="width"
      :class="['block text-fine font-sans', drawing ? 'touch-none cursor-crosshair' : 'touch-pan-y']"
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
      <g
        v-for="view in views"
        :key="view.key"
        :class="view.key"
        @pointerdown="draw($event, view)"
        @pointermove="move"
        @pointerup="end"
      >
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
          <path v-for="open in answer.open_walls" :key="open.side" :d="openArc(open.side)" class="open" />
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
          v-bind="rect(view, ...boxOf(solid.obstacle || '-', solid.min_mm, solid.max_mm))"
          :class="[
            'solid',
            solid.state,
            { mine: changes && solid.obstacle, picked: solid.obstacle && solid.obstacle === picked },
          ]"
          @pointerdown="solid.obstacle && down($event, view, solid.obstacle, solid.min_mm, solid.max_mm)"
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
          @pointerdown="down($event, view, part.part, part.min_mm, part.max_mm)"
        >
          <ellipse
            v-if="isRound(view, part)"
            v-bind="round(view, ...boxOf(part.part, part.min_mm, part.max_mm))"
          />
          <rect v-else v-bind="rect(view, ...boxOf(part.part, part.min_mm, part.max_mm))" rx="1.5" />
          <rect
            v-if="stopBox(part) && dragged?.what !== part.part"
            v-bind="rect(view, ...stopBox(part)!)"
            class="stop"
          >
            <title>stop behind the socket</title>
          </rect>
          <text v-bind="middle(view, ...boxOf(part.part, part.min_mm, part.max_mm))">
            {{ letters.get(part.part) }}
          </text>
        </g>
        <rect
          v-if="dragged?.what === NEW && dragged.view.key === view.key"
          v-bind="rect(view, dragged.low, dragged.high)"
          class="solid drawn"
        />
        <!-- over the parts, so that it can be taken hold of where it stands under one -->
        <g v-for="solid in pickedObstacle" :key="solid.obstacle" class="held">
          <rect
            v-bind="rect(view, ...boxOf(solid.obstacle, solid.min_mm, solid.max_mm))"
            @pointerdown="down($event, view, solid.obstacle, solid.min_mm, solid.max_mm)"
          />
          <rect
            v-bind="handle(view, ...boxOf(solid.obstacle, solid.min_mm, solid.max_mm))"
            class="corner"
            @pointerdown="down($event, view, solid.obstacle, solid.min_mm, solid.max_mm, true)"
          >
            <title>Drag to make it larger</title>
          </rect>
        </g>
        <g v-if="answer.seam_mm != null && view.key !== 'top'" class="seam">
          <path :d="`M${view.x} ${py(view, answer.seam_mm)}H${px(view, size[view.across]! + wall)}`" />
          <text
            v-if="view.key === 'front'"
            :x="px(view, size[view.across]! + wall) + 4"
            :y="py(view, answer.seam_mm) + 4"
          >
            seam
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
            v-if="!(changes && view.key === 'top')"
            :x="px(view, size[view.across]! / 2)"
            :y="view.y + (size[view.up]! + 2 * wall) * scale + 26"
            class="middle"
          >
            {{ figure(size[view.across]!) }}
          </text>
          <path :d="`M${view.x - (hasField(view) ? 31 : 10)} ${py(view, 0)}V${py(view, size[view.up]!)}`" />
          <text
            v-if="!hasField(view)"
            :transform="`translate(${view.x - 14} ${py(view, size[view.up]! / 2)}) rotate(-90)`"
            class="middle"
          >
            {{ figure(size[view.up]!) }}
          </text>
        </g>
      </g>
    </svg>
    <div
      v-if="width && $slots.corner"
      ref="corner"
      :class="hasCorner ? 'absolute right-0 top-0' : 'mt-6'"
      :style="hasCorner ? `left: ${views[2]!.x - 14}px` : ''"
    >
      <slot name="corner" />
    </div>
    <slot
      v-if="width"
      name="measures"
      :views="views"
      :px="px"
      :py="py"
      :size="size"
      :below="below"
      :left="12"
    />
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
  fill: none;
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
.solid.mine {
  cursor: move;
}
.held rect {
  fill: transparent;
  stroke: var(--copper);
  stroke-width: 2.4;
  cursor: move;
}
.held .corner {
  fill: var(--sheet);
  stroke-width: 2;
  cursor: nesw-resize;
}
.solid.drawn {
  stroke: var(--copper);
  stroke-width: 2.4;
}
.part .stop {
  fill: url(#hatch);
  fill-opacity: 1;
  stroke-width: 0.8;
}
.seam path {
  fill: none;
  stroke: var(--ink2);
  stroke-dasharray: 9 3 2 3;
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
