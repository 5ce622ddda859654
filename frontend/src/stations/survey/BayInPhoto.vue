<script setup lang="ts">
/** The bay's rim in a photograph, and the parts lying in it where the fit has put them; the core says where each is seen. */
import { api } from '@/api/client'
import { useQuestion } from '@/composables/useQuestion'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ photoId: number }>()
const conversion = useConversion()
const seen = useQuestion(async (body) => {
  const params = { path: { project_id: conversion.stored!.id, photo_id: props.photoId } }
  return await api.POST('/api/projects/{project_id}/photos/{photo_id}/parts', { params, body })
})
/** As thick on a large photograph as on a small one. */
const THIN = { 'vector-effect': 'non-scaling-stroke' }
const polygon = (corners: readonly (readonly number[])[]) =>
  corners.map(([x, y]) => `${x! * 100},${y! * 100}`).join(' ')
</script>

<template>
  <g v-if="seen">
    <polygon :points="polygon(seen.outline)" class="rim" />
    <polygon
      v-for="part in seen.parts"
      :key="part.part"
      :points="polygon(part.corners)"
      :class="['part', part.kind]"
    >
      <title>{{ part.part }}</title>
    </polygon>
    <polyline
      v-for="opening in seen.openings"
      :key="opening.side + opening.what"
      :points="polygon(opening.line)"
      :class="['opening', opening.what]"
    >
      <title>opening in the {{ opening.side }} wall for the {{ opening.what }}</title>
    </polyline>
    <g
      v-for="wire in seen.wires"
      :key="wire.letter"
      fill="none"
      stroke-linejoin="round"
      stroke-linecap="round"
    >
      <polyline v-bind="THIN" :points="polygon(wire.line)" stroke="#fffdf6" stroke-width="6" />
      <polyline v-bind="THIN" :points="polygon(wire.line)" :stroke="wire.colour" stroke-width="3">
        <title>{{ wire.says }}</title>
      </polyline>
      <polyline
        v-for="pad in [wire.line[0]!, wire.line[2]!]"
        :key="pad.join()"
        v-bind="THIN"
        :points="polygon([pad, pad])"
        stroke="var(--copper)"
        stroke-width="9"
      />
    </g>
  </g>
</template>

<style scoped>
polygon {
  vector-effect: non-scaling-stroke;
  stroke-width: 2px;
}
.opening {
  fill: none;
  stroke: var(--copper);
  stroke-width: 7px;
  vector-effect: non-scaling-stroke;
}
.rim {
  fill: none;
  stroke: #7fe0a8;
}
.part {
  fill: var(--band);
  fill-opacity: 0.55;
  stroke: #1f2a33;
}
.part.cell {
  fill: var(--lithium);
}
</style>
