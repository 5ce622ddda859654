<script setup lang="ts">
/** An empty shelf: what comes out at the end, and the two ways to begin. */
import type { Summary } from '@/api/client'
import BayThumb from '@/drawings/BayThumb.vue'
import { t } from '@/words'

const emit = defineEmits<{ example: [] }>()

/** Only to show what such a picture is: no bay of anybody's. */
const BAY: Summary['picture'] = {
  size_mm: [60, 34],
  tube: false,
  parts: [
    { kind: 'cell', min_mm: [1, 1], max_mm: [41, 33] },
    { kind: 'charger', min_mm: [42.5, 8], max_mm: [59, 26] },
  ],
}

const RESULTS = [
  [
    t('Builds to choose from'),
    t('every cell and board that your gadget allows, with hours, millimetres and price'),
  ],
  [
    t('Where it all lies'),
    t('in your bay, to the tenth of a millimetre, with the holes to cut and a lid to print'),
  ],
  [
    t('What to solder'),
    t('wires, resistor and order of work, each step with the reading that lets you go on'),
  ],
  [t('Proof'), t('what was promised beside what you measured, and a label for the case')],
]
</script>

<template>
  <section
    class="first-visit grid grid-cols-[260px_minmax(0,640px)] gap-30 mt-34 narrow:grid-cols-1"
    aria-label="First visit"
  >
    <BayThumb :picture="BAY" aria-hidden="true" />
    <div>
      <h2 class="text-ink text-large">Nothing is on your shelf yet. At the end of a conversion you hold:</h2>
      <dl class="ruled-list">
        <div v-for="[what, more] in RESULTS" :key="what">
          <dt>{{ what }}</dt>
          <dd>{{ more }}</dd>
        </div>
      </dl>
      <p class="mx-0 my-14">
        Take the gadget and its batteries: six pictures are enough to begin, and "I do not know" is an answer
        to each.
      </p>
      <RouterLink to="/new" class="link-button">Begin by pictures</RouterLink>
      <button type="button" class="bare link-button" @click="emit('example')">Open a worked example</button>
      <RouterLink to="/measuring" class="link-button">How to measure</RouterLink>
    </div>
  </section>
</template>

<style scoped>
.first-visit > .thumb {
  width: 100%;
  height: auto;
}
@media (max-width: 860px) {
  .first-visit > .thumb {
    max-width: 180px;
  }
}
</style>
