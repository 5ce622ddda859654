<script setup lang="ts">
/** The size printed on a cell, read: every plausible way, ready to be taken as the cell of this build. */
import { ref } from 'vue'

import { api, sentenceOf, type SizeReading } from '@/api/client'
import PrintedLabel from '@/stations/cell/PrintedLabel.vue'
import { useNewest } from '@/composables/useNewest'
import { plain } from '@/format'

const emit = defineEmits<{ take: [code: string, reading: SizeReading] }>()
const code = ref('')
const readings = ref<SizeReading[]>([])
const problem = ref('')

const newest = useNewest()
async function read(): Promise<void> {
  newest.drop()
  readings.value = []
  problem.value = ''
  if (!code.value.trim()) return
  const params = { query: { code: code.value } }
  const heard = await newest(api.GET('/api/questions/size-code', { params }))
  if (!heard) return
  const { data, error } = heard
  readings.value = data ?? []
  problem.value = error ? sentenceOf(error) : ''
}
</script>

<template>
  <form class="flex flex-wrap items-center gap-y-6 gap-x-8" @submit.prevent="read">
    <label for="size-code">Printed on it</label>
    <input
      id="size-code"
      v-model="code"
      class="w-220 h-28 px-8 py-0 framed bg-sheet text-ink text-body font-mono"
      placeholder="503759, or its label"
      autocomplete="off"
      @change="read"
    />
    <ElButton size="small" native-type="submit">Read</ElButton>
    <PrintedLabel @read="((code = $event), read())" />
    <ul v-if="readings.length" class="basis-full m-0 p-0 list-none">
      <li v-for="reading in readings" :key="reading.says">
        <button
          type="button"
          class="bare px-8 py-4 border-l-3 border-copper hover:bg-copperwash"
          @click="emit('take', code.trim(), reading)"
        >
          <b>{{ reading.size_mm.map((mm) => plain(mm, 3)).join(' x ') }} mm</b>,
          <template v-if="reading.printed_ah"
            >{{ reading.printed_ah.text }} printed; this size holds about
            {{ reading.capacity_ah.text }}</template
          >
          <template v-else>about {{ reading.capacity_ah.text }}</template>
          <small class="block text-ink2">{{ reading.says }}</small>
        </button>
      </li>
    </ul>
    <p v-if="problem" class="error-line basis-full text-stop text-small" role="alert">{{ problem }}</p>
  </form>
</template>
