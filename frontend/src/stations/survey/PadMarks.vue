<script setup lang="ts">
/** Beside a photograph: which board it shows, which pad comes next, and what is marked already. */
import { computed } from 'vue'

import type { usePadMarks } from '@/stations/survey/usePadMarks'
import PickField from '@/kit/PickField.vue'
import { t } from '@/words'

const { marks } = defineProps<{ marks: ReturnType<typeof usePadMarks> }>()
const options = computed(() =>
  (marks.boards.value ?? []).map(({ id, name, pads, known }) => ({
    value: id,
    label: name,
    detail: pads.every((pad) => known.includes(pad)) ? t('its pads are known') : t('its pads are not known'),
  })),
)
const board = computed({
  get: () => marks.chosen.value?.id ?? '',
  set: marks.choose,
})
</script>

<template>
  <p class="quiet small" aria-live="polite">{{ marks.says.value }}</p>
  <PickField v-if="options.length" v-model="board" label="Board in the picture" :options="options" />
  <p v-if="Object.keys(marks.spots.value).length" class="small">
    Marked: {{ Object.keys(marks.spots.value).join(', ') }}
  </p>
  <p v-if="marks.done.value" class="small" role="status">{{ marks.done.value }}</p>
  <p v-if="marks.problem.value" class="error-line" role="alert">{{ marks.problem.value }}</p>
  <div class="flex gap-8">
    <ElButton
      size="small"
      type="primary"
      :disabled="!Object.keys(marks.spots.value).length"
      @click="marks.keep"
      >Keep the pads</ElButton
    >
    <ElButton size="small" :disabled="!marks.corners.value.length" @click="marks.clear">Begin anew</ElButton>
  </div>
</template>
