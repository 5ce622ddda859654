<script setup lang="ts">
/** Which distance is meant: the bay in outline with calipers on the measure that is being typed. */
import { computed } from 'vue'
import { t } from '@/words'

const props = defineProps<{ measure: string; tube?: boolean }>()

/** Where the caliper's two jaws stand, and which way they lie. */
const JAWS: Record<string, [number, number, number, number]> = {
  length: [36, 96, 176, 96],
  width: [176, 96, 206, 64],
  height: [36, 96, 36, 54],
  wall: [28, 100, 36, 100],
  lid: [106, 36, 106, 22],
  lid_depth: [176, 54, 176, 72],
  diameter: [36, 54, 36, 96],
}
const SAYS: Record<string, string> = {
  length: t('inside, along the floor: moulded walls lean in there'),
  width: t('inside, across the floor, where it is narrowest'),
  height: t('from the floor to the inside of the closed lid'),
  wall: t('how thick the shell is where it may be opened'),
  lid: t('how far the lid could be raised and still close'),
  lid_depth: t('a lid with walls of its own, or the upper of two half shells: how deep; 0 for a flat one'),
  diameter: t('inside diameter, at its narrowest'),
}
const jaws = computed(() => JAWS[props.measure])
</script>

<template>
  <figure class="m-0">
    <svg class="block w-full max-w-250" viewBox="0 0 240 124" aria-hidden="true">
      <g class="bay">
        <path d="M36 54h140v42H36z" />
        <path d="M36 54l30-32h140v42l-30 32M176 54l30-32" />
        <path d="M36 96l30-32h140M66 22v42" class="back" />
      </g>
      <g v-if="jaws" class="jaws">
        <line :x1="jaws[0]" :y1="jaws[1]" :x2="jaws[2]" :y2="jaws[3]" />
        <circle :cx="jaws[0]" :cy="jaws[1]" r="3.5" />
        <circle :cx="jaws[2]" :cy="jaws[3]" r="3.5" />
      </g>
    </svg>
    <figcaption class="text-ink2 text-small">
      {{ SAYS[measure] ?? 'touch a field: the drawing shows which distance is meant' }}
    </figcaption>
  </figure>
</template>

<style scoped>
.bay {
  fill: none;
  stroke: var(--ink3);
  stroke-width: 1.4;
  stroke-linejoin: round;
}
.back {
  stroke-dasharray: 3 3;
}
.jaws line {
  stroke: var(--copper);
  stroke-width: 2.6;
}
.jaws circle {
  fill: var(--copper);
}
</style>
