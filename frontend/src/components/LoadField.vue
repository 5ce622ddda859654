<script setup lang="ts">
/** What the gadget draws and when, in one line: understood as it is typed, and taken when the field is left. */
import { useSessionStorage } from '@vueuse/core'
import { computed, onMounted, ref, useId } from 'vue'

import { api, sentenceOf } from '@/api/client'
import LoadTimeline from '@/drawings/LoadTimeline.vue'
import { useLoadLine } from '@/composables/useLoadLine'
import { useConversion } from '@/stores/conversion'

const id = useId()
const conversion = useConversion()
const { reading, refusal, read, readSoon } = useLoadLine(() => conversion.question().document)
/** What could not be read is kept until it is mended, on another station too. */
const typed = useSessionStorage<string | null>(`load-line-${conversion.stored?.id}`, null)
onMounted(() => typed.value !== null && void read(typed.value))

const known = computed(() => conversion.assessment?.survey.day ?? undefined)
const day = computed(() => (typed.value === null ? known.value : (reading.value?.day ?? known.value)))
const text = computed(() => typed.value ?? known.value?.line ?? '')

function type(line: string): void {
  typed.value = line
  void readSoon(line)
}

const picker = ref<HTMLInputElement>()
/** What a meter recorded of it, as a line to look at before it is taken. */
const told = ref('')
async function fromLog(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (!text) return
  const { data, error } = await api.POST('/api/questions/load-log', { body: { text } })
  told.value = data?.says ?? ''
  if (data) type(data.line)
  else refusal.value = sentenceOf(error)
}

async function settle(): Promise<void> {
  const line = typed.value
  if (line === null) return
  if (!line.trim() || line === known.value?.line) {
    typed.value = null
    refusal.value = ''
    return
  }
  const understood = await read(line)
  if (!understood || typed.value !== line) return
  if (understood.edits.length) await conversion.applyEdits(understood.edits)
  if (typed.value === line) typed.value = null
}
</script>

<template>
  <div class="grid gap-6">
    <label :for="id" class="sr-only">What it draws, and when</label>
    <textarea
      :id="id"
      class="text-input load w-full h-auto px-9 py-6 font-mono"
      rows="1"
      :value="text"
      maxlength="400"
      placeholder="18 mA for 2 s every minute, 60 μA asleep"
      autocomplete="off"
      spellcheck="false"
      :data-typed="typed !== null"
      :aria-invalid="!!refusal"
      :aria-describedby="refusal ? `${id}-error` : undefined"
      @input="type(($event.target as HTMLTextAreaElement).value)"
      @change="settle"
      @keydown.enter.prevent="settle"
    />
    <p class="m-0 text-small">
      <button type="button" class="bare link-button tap" @click="picker?.click()">from a log …</button>
      <template v-if="typed !== null && reading">
        {{ told }}
        <button type="button" class="bare link-button tap" @click="settle">Take it</button>
      </template>
      <input
        ref="picker"
        type="file"
        accept=".csv,.txt,.tsv,text/csv,text/plain"
        class="visually-hidden"
        tabindex="-1"
        aria-label="Log of the gadget in use"
        @change="fromLog"
      />
    </p>
    <p v-if="refusal" :id="`${id}-error`" class="error-line" role="alert">{{ refusal }}</p>
    <p v-else-if="typed !== null && reading?.taken" class="quiet small">{{ reading.taken }}</p>
    <LoadTimeline v-if="day && !refusal" :day="day" />
  </div>
</template>

<style scoped>
.load {
  field-sizing: content;
  resize: none;
}
</style>
