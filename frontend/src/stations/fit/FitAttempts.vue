<script setup lang="ts">
/** Tries at the bench: what was tried, how far off it was; an off figure widens the next answer's tolerance. */
import { computed, ref } from 'vue'

import type { FitAnswer } from '@/api/client'
import { useConversion } from '@/stores/conversion'
import { useUnits } from '@/composables/useUnits'

const { lengthText } = useUnits()
const props = defineProps<{ answer: FitAnswer | null }>()
const conversion = useConversion()
const attempts = computed(() => conversion.build?.record.attempts ?? [])
const note = ref('')
const off = ref('')

/** As it was typed until the core has made a length of it. */
const offBy = (mm: number | string) => (typeof mm === 'number' ? lengthText(mm) : mm)

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
    <h2 class="mx-0 mt-16 mb-4">Tries</h2>
    <ol v-if="attempts.length" class="mx-0 mt-0 mb-8 p-0 list-none">
      <li
        v-for="(attempt, index) in attempts"
        :key="index"
        class="grid grid-cols-[84px_minmax(0,1fr)_auto] gap-8 px-0 py-4 border-b border-line"
      >
        <span class="quiet">{{ attempt.day }}</span>
        <span
          >{{ attempt.note }}
          <small v-if="typeof attempt.clearance_mm === 'number'" class="ml-8 text-ink2"
            >computed: {{ lengthText(attempt.clearance_mm) }} to spare</small
          >
          <small v-if="typeof attempt.off_mm === 'number' && attempt.off_mm" class="ml-8 text-ink2"
            >was {{ offBy(attempt.off_mm) }} off</small
          ></span
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
    <form class="flex flex-wrap items-center gap-y-8 gap-x-14" @submit.prevent="keep">
      <input
        v-model="note"
        class="flex-1 min-w-180 h-28 px-8 py-0 framed bg-sheet text-ink text-body font-sans"
        aria-label="What was tried"
        placeholder="0.5 mm too tight at the latch"
        maxlength="400"
      />
      <label
        >off by
        <input
          v-model="off"
          class="off flex-none min-w-0 h-28 w-56 px-8 py-0 framed bg-sheet text-ink text-body font-sans"
          aria-label="off by, mm"
          placeholder="0.5"
        />
        mm</label
      >
      <ElButton size="small" native-type="submit" :disabled="!note.trim()">Note the try</ElButton>
    </form>
  </section>
</template>
