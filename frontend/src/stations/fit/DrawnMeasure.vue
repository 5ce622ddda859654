<script setup lang="ts">
/** A measure on the drawing that is its own field: touch the figure and type what the calipers say. */
import { computed, useId } from 'vue'

import { useQuantity } from '@/composables/useQuantity'

const props = defineProps<{ path: string; unit: 'mm' | 'in'; label: string; x: number; y: number }>()

const id = useId()
const { text, sentence, type, settle, nudge } = useQuantity(
  () => props.path,
  () => props.unit,
)
const describedBy = computed(() => (sentence.value ? `${id}-error` : undefined))
</script>

<template>
  <span class="measured" :style="{ left: `${x}px`, top: `${y}px` }">
    <input
      :value="text"
      :aria-label="label"
      :title="`${label}: type what the calipers say`"
      :aria-invalid="!!sentence"
      :aria-describedby="describedBy"
      autocomplete="off"
      spellcheck="false"
      @input="type(($event.target as HTMLInputElement).value)"
      @change="settle"
      @blur="settle"
      @keydown.up.prevent="void nudge(1)"
      @keydown.down.prevent="void nudge(-1)"
      @keydown.enter="settle"
    />
    <span v-if="sentence" :id="`${id}-error`" class="error-line says" role="alert">{{ sentence }}</span>
  </span>
</template>

<style scoped>
.measured {
  position: absolute;
  transform: translate(-50%, -50%);
}
input {
  width: 58px;
  height: 26px;
  padding: 0 4px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--copper);
  font: 14px var(--mono);
  text-align: center;
}
input:focus {
  border-color: var(--copper);
  outline: 2px solid var(--copperwash);
}
input[aria-invalid='true'] {
  border-color: var(--stop);
}
.says {
  position: absolute;
  z-index: 2;
  top: 30px;
  left: 0;
  width: 220px;
  padding: 4px 8px;
  border: 1px solid var(--stop);
  background: var(--sheet);
}
</style>
