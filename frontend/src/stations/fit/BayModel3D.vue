<script setup lang="ts">
/** The bay as a picture to turn: drag it, or use the arrow keys. Drawn with the browser's own 3D transforms. */
import { computed, ref } from 'vue'

import type { FitAnswer } from '@/api/client'

const props = defineProps<{ answer: FitAnswer; picked: string }>()
const yaw = ref(-32)
const pitch = ref(-24)
const held = ref<{ x: number; y: number; yaw: number; pitch: number }>()

const TALL = 270
const scale = computed(() => 270 / Math.max(...props.answer.size_mm, 1))

interface Solid {
  name: string
  kind: string
  low: readonly number[]
  size: [number, number, number]
}
const solids = computed<Solid[]>(() => {
  const extent = (low: readonly number[], high: readonly number[]) =>
    low.map((v, i) => (high[i]! - v) * scale.value) as [number, number, number]
  const parts = (props.answer.placements ?? []).map((p) => ({
    name: p.part,
    kind: p.kind,
    low: p.min_mm,
    size: extent(p.min_mm, p.max_mm),
  }))
  const standing = (props.answer.solids ?? []).map((s, i) => ({
    name: `${s.name} ${i}`,
    kind: 'solid',
    low: s.min_mm,
    size: extent(s.min_mm, s.max_mm),
  }))
  const size = props.answer.size_mm.map((mm) => mm * scale.value) as [number, number, number]
  return [{ name: 'bay', kind: 'bay', low: [0, 0, 0], size }, ...standing, ...parts]
})

/** Bay x to the right, z up, y away: the middle of the bay is the middle of the picture. */
function place(solid: Solid): string {
  const [x, y, z] = solid.low.map((mm) => mm * scale.value) as [number, number, number]
  const [lx, ly, lz] = props.answer.size_mm.map((mm) => mm * scale.value) as [number, number, number]
  const [w, d, h] = solid.size
  return `translate3d(${x + w / 2 - lx / 2}px, ${lz / 2 - z - h / 2}px, ${ly / 2 - y - d / 2}px)`
}

function faces([w, d, h]: [number, number, number]) {
  const face = (width: number, height: number, transform: string) => ({
    width: `${width}px`,
    height: `${height}px`,
    transform: `translate(-50%, -50%) ${transform}`,
  })
  return [
    face(w, h, `translateZ(${d / 2}px)`),
    face(w, h, `translateZ(${-d / 2}px)`),
    face(d, h, `rotateY(90deg) translateZ(${w / 2}px)`),
    face(d, h, `rotateY(90deg) translateZ(${-w / 2}px)`),
    face(w, d, `rotateX(90deg) translateZ(${h / 2}px)`),
    face(w, d, `rotateX(90deg) translateZ(${-h / 2}px)`),
  ]
}

function down(event: PointerEvent): void {
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  held.value = { x: event.clientX, y: event.clientY, yaw: yaw.value, pitch: pitch.value }
}
function move(event: PointerEvent): void {
  if (!held.value) return
  yaw.value = held.value.yaw + (event.clientX - held.value.x) * 0.5
  pitch.value = Math.min(Math.max(held.value.pitch - (event.clientY - held.value.y) * 0.5, -89), 89)
}
function turn(dx: number, dy: number): void {
  yaw.value += dx
  pitch.value = Math.min(Math.max(pitch.value + dy, -89), 89)
}
</script>

<template>
  <div
    class="stage"
    tabindex="0"
    role="img"
    aria-label="The bay to turn: drag, or arrow keys"
    :style="{ height: `${TALL}px` }"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="held = undefined"
    @keydown.left.prevent="turn(-8, 0)"
    @keydown.right.prevent="turn(8, 0)"
    @keydown.up.prevent="turn(0, -8)"
    @keydown.down.prevent="turn(0, 8)"
  >
    <div class="world" :style="{ transform: `rotateX(${pitch}deg) rotateY(${yaw}deg)` }">
      <div
        v-for="solid in solids"
        :key="solid.name"
        :class="['solid', solid.kind, { picked: solid.name === picked }]"
        :style="{ transform: place(solid) }"
      >
        <i
          v-for="(face, index) in faces(solid.size)"
          :key="index"
          class="absolute border border-ink bg-lithium opacity-86"
          :style="face"
        />
      </div>
    </div>
  </div>
</template>

<style scoped>
.stage {
  position: relative;
  overflow: hidden;
  perspective: 1100px;
  cursor: grab;
  touch-action: none;
}
.world,
.solid {
  position: absolute;
  left: 50%;
  top: 50%;
  transform-style: preserve-3d;
}
.bay i {
  border: 1px dashed var(--ink3);
  background: none;
}
.board i {
  background: var(--band);
}
.solid.solid i {
  border-color: var(--ink3);
}
div.solid > i {
  backface-visibility: visible;
}
.pad i,
.plug i,
.lamp i,
.switch i,
.spacer i {
  background: var(--old);
}
.picked i {
  border-color: var(--copper);
  border-width: 2px;
}
</style>
