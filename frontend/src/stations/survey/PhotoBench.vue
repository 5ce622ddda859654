<script setup lang="ts">
/** One photograph on the bench: mark a known length, read others off it into fields, put notes on spots. */
import { computed, ref } from 'vue'

import { api, sentenceOf, type StoredPhoto, type PhotoMarks } from '@/api/client'
import BayFromPhoto from '@/stations/survey/BayFromPhoto.vue'
import BayInPhoto from '@/stations/survey/BayInPhoto.vue'
import PhotoReadings from '@/stations/survey/PhotoReadings.vue'
import PadMarks from '@/stations/survey/PadMarks.vue'
import { NAMES, SAYS, type Tool } from '@/stations/survey/photoTools'
import { useCrosshair } from '@/composables/useCrosshair'
import { useBayCorners } from '@/stations/survey/useBayCorners'
import { usePadMarks } from '@/stations/survey/usePadMarks'
import TypedInput from '@/kit/TypedInput.vue'
import { useConversion } from '@/stores/conversion'
import { usePhotos } from '@/stores/photos'
import { useUnits } from '@/composables/useUnits'
import { t } from '@/words'

const { bare, lengthText } = useUnits()
const props = defineProps<{ photo: StoredPhoto }>()
const emit = defineEmits<{ close: [] }>()
const photos = usePhotos()
const conversion = useConversion()

type Place = { x: number; y: number }

const tool = ref<Tool>(props.photo.marks.scale ? 'length' : 'known')
const from = ref<Place>()
const to = ref<Place>()
const knownMm = ref('')
const name = ref('')
const stage = ref<SVGSVGElement>()

/** The bay by its corners, from wherever it was taken; then what lies in it is seen, and more is traced. */
const bay = useBayCorners(() => props.photo)
const { corners, bayMm } = bay
const high = ref('5 mm')
const straight = ref(false)
const traceProblem = ref('')
const tracedWall = ref('')
const path = () => ({ path: { project_id: conversion.stored!.id, photo_id: props.photo.id } })

const marks = computed<PhotoMarks>(() => JSON.parse(JSON.stringify(props.photo.marks)) as PhotoMarks)
const readings = computed(() => props.photo.lengths)

function place(event: PointerEvent): Place {
  const box = stage.value!.getBoundingClientRect()
  const share = (at: number, start: number, size: number) => Math.min(Math.max((at - start) / size, 0), 1)
  return { x: share(event.clientX, box.left, box.width), y: share(event.clientY, box.top, box.height) }
}

const pads = usePadMarks()

function down(event: PointerEvent): void {
  if (tool.value === 'pads') return pads.press(place(event))
  if (tool.value === 'bay') return pressCorner(event)
  from.value = place(event)
  to.value = from.value
  stage.value?.setPointerCapture(event.pointerId)
}

/** A corner that is there already is taken along until it is let go. */
let held: number | undefined
function pressCorner(event: PointerEvent): void {
  held = bay.near(place(event))
  if (held === undefined) return bay.add(place(event))
  stage.value?.setPointerCapture(event.pointerId)
}

/** By keys a line is two presses: where it begins, where it ends. */
const drawsLine = computed(() => !['bay', 'note', 'pads'].includes(tool.value))
let begun = false
const { cross, key, leave } = useCrosshair((at) => {
  if (tool.value === 'bay') return bay.add(at)
  if (tool.value === 'pads') return pads.press(at)
  if (begun && drawsLine.value) to.value = at
  else from.value = to.value = at
  begun = !begun && drawsLine.value
})

function move(event: PointerEvent): void {
  if (tool.value === 'bay' && held !== undefined && stage.value?.hasPointerCapture(event.pointerId))
    return bay.drag(held, place(event))
  if (from.value && stage.value?.hasPointerCapture(event.pointerId)) to.value = place(event)
}

/** To be called once the marks of now are kept: what was drawn or typed meanwhile stays. */
function takenOff(): () => void {
  const [start, end, called, rim] = [from.value, to.value, name.value, corners.value]
  return () => {
    if (from.value === start) from.value = undefined
    if (to.value === end) to.value = undefined
    if (name.value === called) name.value = ''
    if (corners.value === rim) corners.value = []
  }
}

async function keepBay(): Promise<void> {
  const takeOff = takenOff()
  const [length_mm, width_mm] = bayMm.value as [string, string]
  const kept = { corners: corners.value, length_mm, width_mm }
  if (!(await photos.mark(props.photo.id, props.photo.caption, { ...marks.value, bay: kept }))) return
  takeOff()
  tool.value = 'length'
}

/** Its place and size are the core's, drawn to walls and edges that are near; its height is the maker's to measure. */
async function keepObstacle(): Promise<void> {
  const takeOff = takenOff()
  const body = { ...conversion.question(), line: { start: from.value!, end: to.value! } }
  const url = '/api/projects/{project_id}/photos/{photo_id}/traced'
  const { data, error } = await api.POST(url, { params: path(), body })
  traceProblem.value = error ? sentenceOf(error) : ''
  if (!data) return
  const value = {
    name: name.value.trim() || t('in the way'),
    at_mm: [...data.at_mm, 0],
    size_mm: [...data.size_mm, high.value],
  }
  await conversion.applyEdits([{ path: 'gadget.bay.obstacles.+', value }])
  takeOff()
}

/** The core says which wall that is, and what of the survey it sets. */
async function keepWall(): Promise<void> {
  const takeOff = takenOff()
  const body = { ...conversion.question(), line: { start: from.value!, end: to.value! } }
  const url = '/api/projects/{project_id}/photos/{photo_id}/traced-wall'
  const { data, error } = await api.POST(url, { params: path(), body })
  traceProblem.value = error ? sentenceOf(error) : ''
  if (!data) return
  await conversion.applyEdits(data.edits)
  tracedWall.value = t('The {side} wall may be opened from {length} to {length2}.', {
    side: data.side,
    length: lengthText(data.from_mm),
    length2: lengthText(data.to_mm),
  })
  takeOff()
}

const keep = () => conversion.within(keepNow)
async function keepNow(): Promise<void> {
  if (tool.value === 'bay') return keepBay()
  if (!from.value || !to.value) return
  const takeOff = takenOff()
  if (tool.value === 'obstacle') return keepObstacle()
  if (tool.value === 'wall') return keepWall()
  const line = { start: from.value, end: to.value }
  const now = marks.value
  if (tool.value === 'known') now.scale = { line, mm: knownMm.value.trim() || 0 }
  else if (tool.value === 'length')
    now.lengths = [
      ...(now.lengths ?? []),
      { name: name.value.trim() || t('length {value}', { value: readings.value.length + 1 }), line },
    ]
  else now.remarks = [...(now.remarks ?? []), { at: from.value, text: name.value.trim() || 'here' }]
  const kept = await photos.mark(props.photo.id, props.photo.caption, now)
  if (!kept) return
  takeOff()
  if (tool.value === 'known') tool.value = 'length'
}

async function drop(kind: 'lengths' | 'remarks', index: number): Promise<void> {
  const now = marks.value
  ;(now[kind] as unknown[]).splice(index, 1)
  await photos.mark(props.photo.id, props.photo.caption, now)
}

async function rename(caption: string): Promise<void> {
  await photos.mark(props.photo.id, caption, marks.value)
}

async function away(): Promise<void> {
  emit('close')
  await photos.remove(props.photo.id)
}

const middle = (line: { start: Place; end: Place }) => ({
  x: ((line.start.x + line.end.x) / 2) * 100,
  y: ((line.start.y + line.end.y) / 2) * 100,
})
</script>

<template>
  <div class="grid grid-cols-[minmax(0,1fr)_250px] gap-14 mt-10 narrow:grid-cols-1">
    <div
      class="relative justify-self-start max-h-460 max-w-full"
      :style="{ aspectRatio: `${photo.width} / ${photo.height}` }"
    >
      <img
        class="block w-full h-full rounded"
        :src="photos.pixels(photo, 'picture')"
        :alt="photo.caption"
        draggable="false"
      />
      <img
        v-if="straight && photo.marks.bay"
        class="inset-0 absolute z-50 bg-sheet w-full h-full object-contain"
        :src="`${photos.pixels(photo, 'straight')}&${photo.revision}`"
        :alt="`${photo.caption}, straight from above`"
      />
      <svg
        ref="stage"
        class="inset-0 absolute w-full h-full cursor-crosshair touch-none"
        viewBox="0 0 100 100"
        preserveAspectRatio="none"
        role="application"
        tabindex="0"
        :aria-label="`Marks on ${photo.caption}: arrows move the cross, Enter marks`"
        @pointerdown="down"
        @pointermove="move"
        @keydown="key"
        @blur="leave"
      >
        <line
          v-if="photo.marks.scale"
          :x1="photo.marks.scale.line.start.x * 100"
          :y1="photo.marks.scale.line.start.y * 100"
          :x2="photo.marks.scale.line.end.x * 100"
          :y2="photo.marks.scale.line.end.y * 100"
          class="known"
        />
        <line
          v-for="length in photo.marks.lengths"
          :key="length.name"
          :x1="length.line.start.x * 100"
          :y1="length.line.start.y * 100"
          :x2="length.line.end.x * 100"
          :y2="length.line.end.y * 100"
        />
        <polygon
          v-if="photo.marks.card"
          class="corners card"
          :points="photo.marks.card.corners.map(({ x, y }) => `${x * 100},${y * 100}`).join(' ')"
        />
        <BayInPhoto v-if="photo.marks.bay" :key="photo.revision" :photo-id="photo.id" />
        <polygon
          v-for="(battery, index) in bay.proposal.value?.found.batteries"
          :key="index"
          class="corners battery"
          :points="battery.corners.map(({ x, y }) => `${x * 100},${y * 100}`).join(' ')"
        />
        <polygon
          v-if="corners.length"
          class="corners"
          :points="corners.map(({ x, y }) => `${x * 100},${y * 100}`).join(' ')"
        />
        <path
          v-for="(corner, index) in tool === 'bay' ? corners : []"
          :key="`corner${index}`"
          class="handle"
          :d="`M${corner.x * 100} ${corner.y * 100}h0`"
        />
        <template v-if="tool === 'pads'">
          <polygon
            class="corners"
            :points="pads.corners.value.map(({ x, y }) => `${x * 100},${y * 100}`).join(' ')"
          />
          <path
            v-for="(at, pad) in pads.spots.value"
            :key="pad"
            :d="`M${at.x * 100} ${at.y * 100}h0`"
            stroke="#9c4a1a"
            stroke-width="9"
            stroke-linecap="round"
            vector-effect="non-scaling-stroke"
          />
        </template>
        <line
          v-if="from && to"
          :x1="from.x * 100"
          :y1="from.y * 100"
          :x2="to.x * 100"
          :y2="to.y * 100"
          class="drawing"
        />
        <path v-if="cross" class="cross" :d="`M${cross.x * 100} 0V100M0 ${cross.y * 100}H100`" />
      </svg>
      <span
        v-for="(length, index) in photo.marks.lengths"
        :key="length.name"
        class="tag"
        :style="{ left: `${middle(length.line).x}%`, top: `${middle(length.line).y}%` }"
        >{{ length.name }} {{ readings[index] && bare(readings[index]!.mm) }}</span
      >
      <span
        v-for="remark in photo.marks.remarks"
        :key="remark.text"
        class="tag remark"
        :style="{ left: `${remark.at.x * 100}%`, top: `${remark.at.y * 100}%` }"
        >{{ remark.text }}</span
      >
      <template v-if="tool === 'pads'">
        <span
          v-for="(at, pad) in pads.spots.value"
          :key="pad"
          class="tag"
          :style="{ left: `${at.x * 100}%`, top: `${at.y * 100}%` }"
          >{{ pad }}</span
        >
      </template>
    </div>
    <div class="side flex flex-col gap-8 min-w-0">
      <TypedInput
        class="caption h-28 min-w-0 px-8 py-0 framed bg-sheet text-ink text-body font-sans"
        :value="photo.caption"
        aria-label="Caption"
        maxlength="120"
        @settle="rename"
      />
      <ElRadioGroup v-model="tool" size="small" aria-label="What to mark">
        <ElRadioButton value="known">known length</ElRadioButton>
        <ElRadioButton value="bay">bay</ElRadioButton>
        <ElRadioButton value="length" :disabled="!photo.marks.scale && !photo.marks.bay && !photo.marks.card"
          >read off</ElRadioButton
        >
        <ElRadioButton value="obstacle" :disabled="!photo.marks.bay">in the way</ElRadioButton>
        <ElRadioButton value="wall" :disabled="!photo.marks.bay">may be opened</ElRadioButton>
        <ElRadioButton value="note">note</ElRadioButton>
        <ElRadioButton value="pads">pads of a board</ElRadioButton>
      </ElRadioGroup>
      <p class="quiet small">
        <template v-if="photo.marks.card"
          >A bank card was found: all in its plane is measured by it.</template
        >
        <template v-else
          >A bank card beside it, flat and whole in the picture, tells its size by itself.</template
        >
        {{ ' ' }}
        <button type="button" class="bare to" @click="photos.findCard(photo.id)">
          {{ photo.marks.card ? 'Look again' : 'Find the card' }}
        </button>
      </p>
      <BayFromPhoto
        v-if="photo.marks.card || photo.marks.bay"
        :bay="bay"
        :photo="photo"
        @look="tool = 'bay'"
      />
      <PadMarks v-if="tool === 'pads'" :marks="pads" />
      <p v-else class="quiet small">{{ SAYS[tool] }}</p>
      <!-- Not to be seen: what came and went here would move what is about to be pressed. -->
      <p class="sr-only" aria-live="polite">
        <template v-if="cross"
          >{{ Math.round(cross.x * 100) }} % across, {{ Math.round(cross.y * 100) }} % down</template
        >
      </p>
      <form v-if="tool !== 'pads'" class="grid grid-cols-[minmax(0,1fr)_auto] gap-6" @submit.prevent="keep">
        <input
          v-if="tool === 'known'"
          v-model="knownMm"
          class="h-28 min-w-0 px-8 py-0 framed bg-sheet text-ink text-body font-sans"
          aria-label="Known length"
          placeholder="50.5 mm"
        />
        <span v-else-if="tool === 'bay'" class="flex gap-6">
          <input
            v-for="(side, index) in ['Bay length', 'Bay width']"
            :key="side"
            v-model="bayMm[index]"
            class="h-28 w-76 min-w-0 px-8 py-0 framed bg-sheet text-ink text-body font-sans"
            :aria-label="side"
          />
        </span>
        <output v-else-if="tool === 'wall'" class="small">{{ tracedWall }}</output>
        <input
          v-else
          v-model="name"
          class="h-28 min-w-0 px-8 py-0 framed bg-sheet text-ink text-body font-sans"
          :aria-label="NAMES[tool].label"
          :placeholder="NAMES[tool].hint"
        />
        <ElButton
          size="small"
          type="primary"
          native-type="submit"
          :disabled="tool === 'bay' ? corners.length < 4 : !from"
          >Keep</ElButton
        >
      </form>
      <label v-if="tool === 'obstacle'" class="flex items-center gap-8"
        >as high as
        <input
          v-model="high"
          class="h-28 w-76 min-w-0 px-8 py-0 framed bg-sheet text-ink text-body font-sans"
          aria-label="Its height"
      /></label>
      <p v-if="photos.problem || traceProblem" class="error-line" role="alert">
        {{ photos.problem || traceProblem }}
      </p>
      <ElCheckbox v-if="photo.marks.bay" v-model="straight">straight from above</ElCheckbox>
      <PhotoReadings :photo="photo" @drop="drop" />
      <div class="flex gap-16">
        <button type="button" class="bare to" @click="photos.turn(photo.id)">Turn</button>
        <button type="button" class="bare to" @click="away">Take away</button>
        <button type="button" class="bare to" @click="emit('close')">Close</button>
      </div>
    </div>
  </div>
</template>

<style scoped>
line {
  stroke: #ffb27a;
  stroke-width: 2.5px;
  vector-effect: non-scaling-stroke;
}
line.known {
  stroke: #7fe0a8;
}
polygon.corners {
  fill: none;
  stroke: #7fe0a8;
  stroke-width: 2.5px;
  stroke-dasharray: 5 3;
  vector-effect: non-scaling-stroke;
}
polygon.battery {
  stroke: #ffb27a;
  stroke-dasharray: none;
}
polygon.card {
  stroke-dasharray: none;
}
.handle {
  stroke: #7fe0a8;
  stroke-width: 12px;
  stroke-linecap: round;
  vector-effect: non-scaling-stroke;
}
.cross {
  stroke: #fdfaf3;
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
}
line.drawing {
  stroke-dasharray: 5 3;
}
.tag {
  position: absolute;
  padding: 0 5px;
  border-radius: 2px;
  background: #1f2a33;
  color: #fdfaf3;
  font-size: 12px;
  pointer-events: none;
  transform: translate(-50%, -130%);
  white-space: nowrap;
}
.tag.remark {
  background: #9c4a1a;
}
.to {
  color: var(--copper);
  font-weight: 600;
}
</style>
