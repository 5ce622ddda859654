<script setup lang="ts">
/** What a log may teach the plan: each figure taken at a click, with what was predicted before kept beside it. */
import type { Prediction, CalibrationOffer } from '@/api/client'
import { useAdoption } from '@/stations/prove/useAdoption'

const props = defineProps<{ offers: CalibrationOffer[]; prediction: Prediction | null; from: string }>()
const emit = defineEmits<{ adopted: [] }>()
const adopt = useAdoption(props)

async function take(offer: CalibrationOffer): Promise<void> {
  await adopt(`${offer.what} ${offer.text}`, offer.edits)
  emit('adopted')
}
</script>

<template>
  <ul class="plain-list mx-0 mt-0 mb-8 p-0 list-none">
    <li
      v-for="offer in offers"
      :key="offer.what"
      class="flex justify-between gap-12 px-0 py-5 border-b border-line"
    >
      <span
        >{{ offer.what }} <b>{{ offer.text }}</b> <small class="block">{{ offer.off }}</small></span
      >
      <span v-if="offer.taken" class="quiet">taken</span>
      <button
        v-else
        type="button"
        class="bare text-copper font-semibold whitespace-nowrap"
        @click="take(offer)"
      >
        Take it as measured
      </button>
    </li>
  </ul>
</template>
