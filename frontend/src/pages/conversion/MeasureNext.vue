<script setup lang="ts">
/** Which number is worth an instrument next, and what it would change. */
import { computed } from 'vue'

import { api, type Station } from '@/api/client'
import { useQuestion } from '@/composables/useQuestion'
import { unbroken } from '@/format'

const emit = defineEmits<{ go: [station: Station] }>()
const readings = useQuestion(async (body) => await api.POST('/api/questions/measure-next', { body }))
const { late } = readings
const first = computed(() => readings.value?.slice(0, 3) ?? [])
</script>

<template>
  <section
    v-if="first.length"
    class="mt-14 px-12 py-10 rounded bg-copperwash"
    :class="{ late }"
    aria-label="Measure next"
  >
    <h2 class="text-copper">Measure next</h2>
    <ol class="mx-0 mt-4 mb-0 p-0 list-none text-small leading-[1.4]">
      <li v-for="reading in first" :key="reading.path">
        <button
          type="button"
          class="bare leading-[1.35] hover:underline"
          @click="emit('go', reading.station)"
        >
          {{ unbroken(reading.headline) }}
        </button>
        <p v-for="change in reading.changes" :key="change" class="mt-2 font-semibold">{{ change }}</p>
        <p class="quiet mt-2">{{ reading.how }}</p>
      </li>
    </ol>
  </section>
</template>

<style scoped>
li + li {
  margin-top: 8px;
  padding-top: 8px;
  border-top: 1px solid var(--line2);
}
</style>
