<script setup lang="ts">
/** A programmable supply sweeps the gadget in one mode, or feeds it asleep: begun, watched, stopped, then taken. */
import { useIntervalFn, useLocalStorage } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef } from 'vue'

import { api, sentenceOf, type SweepNews } from '@/api/client'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ mode: string; name: string }>()

const conversion = useConversion()
const address = useLocalStorage('pocket-spark-supply', '')
const news = shallowRef<SweepNews>()
const problem = ref('')
const runs = computed(() => news.value?.state === 'running')

// The server takes silence for a closed page, and switches the supply off.
const { pause, resume } = useIntervalFn(() => void look(), 500, { immediate: false })
onScopeDispose(() => runs.value && void stop())

async function start(of: SweepNews['of']): Promise<void> {
  if (!address.value || runs.value) return
  problem.value = ''
  const body = { ...conversion.question(), mode: props.mode, of, address: address.value }
  const { data, error } = await api.POST('/api/instruments/supply-sweep', { body })
  if (error) problem.value = sentenceOf(error)
  news.value = data
  if (data) resume()
}

const at = () => ({ params: { path: { sweep_id: news.value!.id } } })
async function look(): Promise<void> {
  const { data, error } = await api.GET('/api/instruments/supply-sweep/{sweep_id}', at())
  if (error) problem.value = sentenceOf(error)
  if (data) news.value = data
  if (!runs.value || error) pause()
}

const saw = (seen: 'stopped' | 'started') =>
  api.POST('/api/instruments/supply-sweep/{sweep_id}/seen', { ...at(), body: { seen } })

async function stop(): Promise<void> {
  await api.DELETE('/api/instruments/supply-sweep/{sweep_id}', at())
  await look()
}

async function take(): Promise<void> {
  await conversion.applyEdits(news.value!.edits)
  news.value = undefined
}
</script>

<template>
  <details class="sweep">
    <summary class="text-ink2 text-small cursor-pointer">Let a programmable supply read them</summary>
    <div class="grid gap-8 pt-6">
      <p class="m-0">
        Batteries out. Supply on the gadget’s terminals, plus to plus. Switch it to “{{ name }}” once it has
        volts: it begins at those of a fresh set and goes down, never over. Say when it stops doing its job;
        then it goes up until it starts again.
      </p>
      <form class="flex flex-wrap items-center gap-8" @submit.prevent="start('mode')">
        <label class="flex items-center gap-8"
          >Its address
          <input
            v-model.trim="address"
            class="text-input w-200 px-9"
            placeholder="192.168.1.20:5025"
            maxlength="200"
            autocomplete="off"
            spellcheck="false"
        /></label>
        <template v-if="!runs">
          <ElButton native-type="submit" :disabled="!address" plain>Start at the top</ElButton>
          <ElButton class="ml-0!" :disabled="!address" plain @click="start('sleep')">Read its sleep</ElButton>
        </template>
      </form>
      <div v-if="runs" class="flex flex-wrap items-center gap-8">
        <button
          type="button"
          class="bare min-w-180 min-h-48 rounded bg-stop text-paper text-large font-bold text-center"
          @click="stop"
        >
          Stop, off
        </button>
        <template v-if="news?.of === 'mode'">
          <ElButton plain @click="saw('stopped')">It has stopped</ElButton>
          <ElButton plain @click="saw('started')">It has started</ElButton>
        </template>
      </div>
      <p v-if="problem || news?.failure" class="error-line" role="alert">{{ problem || news?.failure }}</p>
      <template v-if="news">
        <div v-if="runs" class="grid gap-4" role="status">
          <b v-if="news.at" class="text-large font-mono"
            >{{ news.at.volts.text }} {{ news.at.current_a.text }}</b
          >
          <span v-else>It is watched at its first volts.</span>
          <progress class="w-full h-6 accent-copper" :value="news.share" aria-label="Steps read" />
        </div>
        <p v-if="news.says" class="m-0 quiet">{{ news.says }}</p>
        <ul v-if="news.results.length" class="m-0 pl-22">
          <li v-for="line in news.results" :key="line">{{ line }}</li>
        </ul>
        <ElButton v-if="news.edits.length" class="justify-self-start" type="primary" plain @click="take"
          >Take these readings</ElButton
        >
      </template>
    </div>
  </details>
</template>
