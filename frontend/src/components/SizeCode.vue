<script setup lang="ts">
/** The size printed on a cell, read: every plausible way, ready to be taken as the cell of this build. */
import { ref } from 'vue'

import { api, sentenceOf, type SizeReading } from '@/api/client'
import { plain } from '@/format'

const emit = defineEmits<{ take: [code: string, reading: SizeReading] }>()
const code = ref('')
const readings = ref<SizeReading[]>([])
const problem = ref('')

async function read(): Promise<void> {
  readings.value = []
  problem.value = ''
  if (!code.value.trim()) return
  const { data, error } = await api.GET('/api/questions/size-code', {
    params: { query: { code: code.value } },
  })
  readings.value = data ?? []
  problem.value = error ? sentenceOf(error) : ''
}
</script>

<template>
  <form class="code" @submit.prevent="read">
    <label for="size-code">Printed on it</label>
    <input
      id="size-code"
      v-model="code"
      placeholder="503759, or all of its label"
      autocomplete="off"
      @change="read"
    />
    <ElButton size="small" native-type="submit">Read</ElButton>
    <ul v-if="readings.length">
      <li v-for="reading in readings" :key="reading.says">
        <button type="button" class="bare" @click="emit('take', code.trim(), reading)">
          <b>{{ reading.size_mm.map((mm) => plain(mm, 3)).join(' x ') }} mm</b>,
          <template v-if="reading.printed_ah"
            >{{ reading.printed_ah.text }} printed; this size holds about
            {{ reading.capacity_ah.text }}</template
          >
          <template v-else>about {{ reading.capacity_ah.text }}</template>
          <small>{{ reading.says }}</small>
        </button>
      </li>
    </ul>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
  </form>
</template>

<style scoped>
.code {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 8px;
}
input {
  width: 220px;
  height: 28px;
  padding: 0 8px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font: 14px var(--mono);
}
ul {
  flex-basis: 100%;
  margin: 0;
  padding: 0;
  list-style: none;
}
li button {
  padding: 4px 8px;
  border-left: 3px solid var(--copper);
}
li button:hover {
  background: var(--copperwash);
}
small {
  display: block;
  color: var(--ink2);
}
.error-line {
  flex-basis: 100%;
  color: var(--stop);
  font-size: 13px;
}
</style>
