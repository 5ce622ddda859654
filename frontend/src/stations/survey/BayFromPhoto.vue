<script setup lang="ts">
/** What a photograph says of the bay by itself: its outline and its batteries, each for a yes, and its depth asked. */
import { ref } from 'vue'

import type { StoredPhoto } from '@/api/client'
import { useUnits } from '@/composables/useUnits'
import { useBayCorners } from '@/stations/survey/useBayCorners'
import { useReadLength } from '@/stations/survey/useReadLength'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const props = defineProps<{ bay: ReturnType<typeof useBayCorners>; photo: StoredPhoto }>()
const emit = defineEmits<{ look: [] }>()
const conversion = useConversion()
const { lengthText } = useUnits()
const use = useReadLength()

const { proposal, looking, problem } = props.bay
const deep = ref('')
const done = ref('')

async function look(): Promise<void> {
  emit('look')
  done.value = ''
  await props.bay.look()
}
async function takeBatteries(): Promise<void> {
  await conversion.applyEdits(proposal.value!.edits)
  done.value = t('Set as the batteries of the gadget.')
}
async function takeBay(): Promise<void> {
  const { length_mm, width_mm } = props.photo.marks.bay!
  const sides = [length_mm, width_mm, deep.value.trim()]
  for (const [axis, side] of sides.entries()) if (side) await use(side, `gadget.bay.rooms.0.size_mm.${axis}`)
  done.value = t('Taken as the bay of the gadget.')
}
</script>

<template>
  <p v-if="photo.marks.card" class="m-0 small">
    <button type="button" class="bare to" :disabled="looking" @click="look">
      {{ looking ? t('Looking …') : t('Look for the bay and its batteries') }}
    </button>
  </p>
  <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
  <div v-if="proposal" class="small" role="status">
    <b>{{ proposal.says }}</b> {{ proposal.lengths_say }} Drag the corners right, then keep them.
    <p v-if="proposal.edits.length" class="m-0 mt-4">
      <ElButton size="small" @click="takeBatteries">These are its batteries</ElButton>
    </p>
  </div>
  <form
    v-if="photo.marks.bay && !conversion.document?.gadget.bay?.tube"
    class="grid gap-6"
    @submit.prevent="takeBay"
  >
    <span class="small"
      >The bay: {{ lengthText(photo.marks.bay.length_mm) }} by {{ lengthText(photo.marks.bay.width_mm) }}, and
      how deep? A picture cannot tell.</span
    >
    <span class="flex gap-6">
      <input
        v-model="deep"
        class="h-28 w-76 min-w-0 px-8 py-0 framed bg-sheet text-ink text-body font-sans"
        aria-label="Bay depth"
        placeholder="17 mm"
      />
      <ElButton size="small" native-type="submit">Take as the bay</ElButton>
    </span>
  </form>
  <p v-if="done" class="m-0 small text-pass" role="status">{{ done }}</p>
</template>

<style scoped>
.to {
  color: var(--copper);
  font-weight: 600;
}
</style>
