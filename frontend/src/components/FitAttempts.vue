<script setup lang="ts">
/** Tries at the bench: what was tried, how far off it was; an off figure widens the next answer's tolerance. */
import { computed, ref } from 'vue'

import type { FitAnswer } from '@/api/client'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ answer: FitAnswer | null }>()
const conversion = useConversion()
const attempts = computed(() => conversion.build?.record.attempts ?? [])
const note = ref('')
const off = ref('')

function keep(): void {
  const today = new Date().toISOString().slice(0, 10)
  void conversion.addRow(`${conversion.buildPath}.record.attempts`, {
    day: today,
    note: note.value.trim(),
    clearance_mm: props.answer?.clearance_mm ?? null,
    off_mm: off.value.trim() || null,
  })
  note.value = off.value = ''
}
</script>

<template>
  <section aria-label="Tries">
    <h2>Tries</h2>
    <ol v-if="attempts.length">
      <li v-for="(attempt, index) in attempts" :key="index">
        <span class="quiet">{{ attempt.day }}</span>
        <span
          >{{ attempt.note }}
          <small v-if="attempt.clearance_mm != null"
            >computed: {{ attempt.clearance_mm.toFixed(1) }} mm to spare</small
          >
          <small v-if="attempt.off_mm">was {{ attempt.off_mm }} mm off</small></span
        >
        <button
          type="button"
          class="bare"
          :aria-label="`Remove try ${index + 1}`"
          @click="conversion.removeRow(`${conversion.buildPath}.record.attempts`, index)"
        >
          ×
        </button>
      </li>
    </ol>
    <form @submit.prevent="keep">
      <input
        v-model="note"
        aria-label="What was tried"
        placeholder="0.5 mm too tight at the latch"
        maxlength="400"
      />
      <label>off by <input v-model="off" class="off" aria-label="off by, mm" placeholder="0.5" /> mm</label>
      <ElButton size="small" native-type="submit" :disabled="!note.trim()">Note the try</ElButton>
    </form>
  </section>
</template>

<style scoped>
h2 {
  margin: 16px 0 4px;
}
ol {
  margin: 0 0 8px;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr) 24px;
  gap: 8px;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
small {
  margin-left: 8px;
  color: var(--ink2);
}
form {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
}
input {
  flex: 1;
  min-width: 180px;
  height: 28px;
  padding: 0 8px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font: 14px var(--sans);
}
input.off {
  flex: none;
  width: 56px;
  min-width: 0;
}
</style>
