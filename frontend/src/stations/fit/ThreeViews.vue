<script setup lang="ts">
/**
 * The bay and what lies in it, drawn to one scale from above, from the front and from the side, with its measures.
 * Where it may be changed, parts and obstacles are moved by hand, and an obstacle is drawn where it stands.
 */
import { useElementSize } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'

import type { FitAnswer, Placement } from '@/api/client'
import BayShell from '@/stations/fit/BayShell.vue'
import ViewMeasures from '@/stations/fit/ViewMeasures.vue'
import { NEW, useDragged, type Dragged } from '@/stations/fit/useDragged'
import { useViewLayout, type Axis, type Point, type View } from '@/stations/fit/useViewLayout'
import { unzoomed } from '@/composables/useTextSize'
import type { Held } from '@/composables/useWhileHeld'
import { useWidth } from '@/drawings/useWidth'
import { HOLES } from '@/stations/fit/walls'
import { t } from '@/words'

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
  /** Where it is being held, a new place each time; undefined once it is let go. */
  held: [now: Held | undefined]
}>()

const box = ref<HTMLElement>()
const width = useWidth(box)
const corner = ref<HTMLElement>()
const { height: cornerHeight } = useElementSize(corner)
const placing = useViewLayout(() => props.answer, width, cornerHeight)
const { hasCorner, wall, size, scale, views, height, px, py, mm, rect } = placing
const layout = reactive(placing)

const isRound = (view: View, part: Placement) => part.round && view.key === 'side'

/** What stands in the bay; its case is drawn by itself, undermost. */
const standing = computed(() => (props.answer.solids ?? []).filter(({ state }) => state !== 'outside'))
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

type Hole = NonNullable<FitAnswer['openings']>[number]
/** The wall of the hole is looked at from its face: there it is where it is seen through what lies before it. */
const looksAt = (view: View, { side }: Hole) =>
  view.away === { left: 0, right: 0, front: 1, back: 1, floor: 2, lid: 2 }[side]
const holeTitle = (hole: Hole) =>
  t('{hole} of {part}', { hole: HOLES[hole.what] ?? hole.what, part: hole.part })

/** What stands behind a socket against the push of the plug: the far end of the board's box. */
function stopBox(part: Placement): [Point, Point] | undefined {
  if (!part.stop_mm || !part.face_side) return
  const axis = { left: 0, right: 0, front: 1, back: 1, floor: 2, lid: 2 }[part.face_side]
  const [low, high] = [[...part.min_mm], [...part.max_mm]]
  if (['left', 'front', 'floor'].includes(part.face_side)) low[axis] = high[axis]! - part.stop_mm
  else high[axis] = low[axis]! + part.stop_mm
  return [low, high]
}

// By hand ---------------------------------------------------------------------------------------------------------

/** Walls, and the faces of what stands and lies there. */
function edges(axis: Axis, but: string): number[] {
  const solids = (props.answer.solids ?? []).filter(({ obstacle }) => !obstacle || obstacle !== but)
  const parts = (props.answer.placements ?? []).filter(({ part }) => part !== but)
  const faces = [...solids, ...parts].flatMap(({ min_mm, max_mm }) => [min_mm[axis]!, max_mm[axis]!])
  return [0, size.value[axis]!, ...faces]
}

const { dragged, begin, move, end, placed } = useDragged(mm, edges, done)

const spansOf = ({ low, high }: Dragged) => low.map((at, axis) => Math.round((high[axis]! - at) * 100) / 100)
watch(dragged, (now) => emit('held', now && { what: now.what, at: [...now.low], size: spansOf(now) }), {
  deep: true,
})

function done(now: Dragged): void {
  const { what, low, view } = now
  const spans = spansOf(now)
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
  const x = placed(0, mm(unzoomed(event.clientX - left) - px(view, 0)))
  const y = placed(1, mm(py(view, 0) - unzoomed(event.clientY - top)))
  event.preventDefault()
  begin(event, NEW, view, [x, y, 0], [x, y, Math.min(NEW_HEIGHT_MM, size.value[2]!)], true)
}

/** Of a round part the ellipse, of any the place of its letter, of an obstacle the corner to drag. */
function round(view: View, low: Point, high: Point) {
  const { x, y, width: w, height: h } = rect(view, low, high)
  return { cx: x + w / 2, cy: y + h / 2, rx: w / 2, ry: h / 2 }
}
/** Where a letter may stand in its part, as shares of it: in the middle, else where nothing nearer to the eye lies. */
const PLACES = [0.5, 0.15, 0.85].flatMap((up) => [0.5, 0.15, 0.85].map((along) => [along, up] as const))
const LETTER_PX = 14
function lettersIn(view: View) {
  const parts = ordered(view).map((part) => ({
    part,
    ...rect(view, ...boxOf(part.part, part.min_mm, part.max_mm)),
  }))
  const taken: { x: number; y: number }[] = []
  return parts.map(({ part, x, y, width: w, height: h }, number) => {
    const free = PLACES.map(([along, up]) => ({ x: x + w * along, y: y + h * up })).find(
      (at) =>
        !parts.slice(number + 1).some((over) => isIn(over, at)) &&
        !taken.some((other) => Math.hypot(other.x - at.x, other.y - at.y) < LETTER_PX),
    )
    const at = free ?? { x: x + w / 2, y: y + h / 2 }
    taken.push(at)
    return { part, x: at.x, y: at.y + 5 }
  })
}
const isIn = (part: { x: number; y: number; width: number; height: number }, at: { x: number; y: number }) =>
  Math.abs(at.x - part.x - part.width / 2) < (part.width + LETTER_PX) / 2 &&
  Math.abs(at.y - part.y - part.height / 2) < (part.height + LETTER_PX) / 2
const CORNER_PX = 14
function handle(view: View, low: Point, high: Point) {
  const { x, y, width: w } = rect(view, low, high)
  return { x: x + w - CORNER_PX / 2, y: y - CORNER_PX / 2, width: CORNER_PX, height: CORNER_PX }
}
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
        <BayShell :answer="answer" :view="view" :layout="layout" />
        <rect
          v-for="(solid, i) in standing"
          :key="i"
          v-bind="rect(view, ...boxOf(solid.obstacle || '-', solid.min_mm, solid.max_mm))"
          :class="[
            'solid',
            solid.state,
            { mine: changes && solid.obstacle, picked: solid.obstacle && solid.obstacle === picked },
          ]"
          @pointerdown="solid.obstacle && down($event, view, solid.obstacle, solid.min_mm, solid.max_mm)"
        />
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
          <template v-if="dragged?.what !== part.part">
            <rect v-if="stopBox(part)" v-bind="rect(view, ...stopBox(part)!)" class="stop">
              <title>stop behind the socket</title>
            </rect>
            <rect
              v-if="part.cradle_mm && view.key !== 'top'"
              v-bind="rect(view, part.min_mm, [part.max_mm[0]!, part.max_mm[1]!, part.cradle_mm])"
              class="stop"
            >
              <title>floor of its printed cradle</title>
            </rect>
          </template>
        </g>
        <!-- over all parts, so that none is pale behind another -->
        <text v-for="{ part, x, y } in lettersIn(view)" :key="part.part" :x="x" :y="y" class="letter">
          {{ letters.get(part.part) }}
        </text>
        <g v-for="(hole, i) in answer.openings" :key="`hole ${i}`" class="hole">
          <ellipse
            v-if="hole.round && looksAt(view, hole)"
            v-bind="round(view, hole.min_mm, hole.max_mm)"
            class="behind"
          />
          <rect
            v-else
            v-bind="rect(view, hole.min_mm, hole.max_mm)"
            :class="{ behind: looksAt(view, hole) }"
          />
          <title>{{ holeTitle(hole) }}</title>
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
        <ViewMeasures :answer="answer" :view="view" :layout="layout" :unit="unit" :fields="changes" />
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
.hatch {
  stroke: var(--ink3);
  stroke-width: 1.2;
}
.solid {
  fill: url(#hatch);
  stroke: var(--ink3);
}
.solid.solid.trim {
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
.letter {
  fill: var(--ink);
  font-weight: 700;
  text-anchor: middle;
  pointer-events: none;
}
.hole rect,
.hole ellipse {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.hole .behind {
  fill: none;
  stroke: var(--ink2);
  stroke-dasharray: 2 3;
  pointer-events: none;
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
