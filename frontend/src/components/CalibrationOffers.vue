<script setup lang="ts">
/** What a log may teach the plan: each figure taken at a click, with what was predicted before kept beside it. */
import type { Prediction, CalibrationOffer } from '@/api/client'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ calibration_offers: CalibrationOffer[]; prediction: Prediction | null; from: string }>()
const emit = defineEmits<{ adopted: [] }>()
const conversion = useConversion()

function adopt(offer: CalibrationOffer): void {
  const at = `${new Date().toISOString().slice(0, 19)}Z`
  const adopted = `${offer.what} ${offer.text}, from ${props.from}`.slice(0, 300)
  conversion.change((document) => {
    const build = document.builds[conversion.buildIndex]!
    if (props.prediction) {
      build.predictions = [...(build.predictions ?? []), { at, adopted, before: props.prediction }]
    }
    document.logbook = [
      ...(document.logbook ?? []),
      { at, kind: 'measurement', station: 'prove', photo_id: null, text: `adopted ${adopted}` },
    ]
  })
  conversion.apply({ label: offer.what, edits: offer.edits })
  emit('adopted')
}
const known = (offer: CalibrationOffer) =>
  offer.edits.every(({ path, value }) => JSON.stringify(conversion.valueOf(path)) === JSON.stringify(value))
</script>

<template>
  <ul class="calibration_offers">
    <li v-for="offer in calibration_offers" :key="offer.what">
      <span
        >{{ offer.what }} <b>{{ offer.text }}</b> <small>{{ offer.off }}</small></span
      >
      <span v-if="known(offer)" class="quiet">taken</span>
      <button v-else type="button" class="bare" @click="adopt(offer)">Take it as measured</button>
    </li>
  </ul>
</template>

<style scoped>
ul {
  margin: 0 0 8px;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
small {
  display: block;
}
button {
  color: var(--copper);
  font-weight: 600;
  white-space: nowrap;
}
</style>
