<script setup lang="ts">
/** A supply and a load answer a checkpoint: begun at one press, watched, stopped, and its reading put into the field. */
import { useIntervalFn, useLocalStorage } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'

import { api, sentenceOf, type BuildTest, type ShownNow, type TestNews } from '@/api/client'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ step: string }>()
const emit = defineEmits<{ reading: [text: string, origin: ShownNow['origin']] }>()

const conversion = useConversion()
const tests = shallowRef<BuildTest[]>([])
const supply = useLocalStorage('pocket-spark-supply', '')
const load = useLocalStorage('pocket-spark-load', '')
const news = shallowRef<TestNews>()
const problem = ref('')
const runs = computed(() => news.value?.state === 'running')

watch(
  () => props.step,
  async (step) => {
    const { data } = await api.POST('/api/instruments/build-test/of-step', {
      body: { ...conversion.question(), step },
    })
    tests.value = data ?? []
  },
  { immediate: true },
)

const { pause, resume } = useIntervalFn(() => void look(), 500, { immediate: false })
onScopeDispose(() => runs.value && void stop())

async function start(test: string, simulated = false): Promise<void> {
  problem.value = ''
  const at = simulated
    ? { supply: 'simulated', load: 'simulated' }
    : { supply: supply.value, load: load.value }
  const body = { ...conversion.question(), test, ...at, speed_up: 600 }
  const { data, error } = await api.POST('/api/instruments/build-test', { body })
  if (error) problem.value = sentenceOf(error)
  news.value = data
  if (data) resume()
}

const at = () => ({ params: { path: { test_id: news.value!.id } } })
async function look(): Promise<void> {
  const { data, error } = await api.GET('/api/instruments/build-test/{test_id}', at())
  if (error) problem.value = sentenceOf(error)
  if (data) news.value = data
  if (!runs.value || error) pause()
  if (data?.reading) emit('reading', data.reading, data.simulated ? 'simulated' : 'instrument')
}

async function stop(): Promise<void> {
  await api.DELETE('/api/instruments/build-test/{test_id}', at())
  await look()
}

async function learn(): Promise<void> {
  await conversion.applyEdits(news.value!.edits)
  news.value = undefined
}
</script>

<template>
  <details v-if="tests.length" class="mt-8" :open="news !== undefined">
    <summary class="text-ink2 text-small cursor-pointer">Let a supply and a load read it</summary>
    <div class="grid gap-8 pt-6 text-body">
      <template v-if="!runs">
        <label
          v-for="place in [
            { name: 'Address of the supply', address: supply, set: (text: string) => (supply = text) },
            { name: 'of the load', address: load, set: (text: string) => (load = text) },
          ]"
          :key="place.name"
          class="flex flex-wrap items-center gap-x-8"
          ><span class="w-150">{{ place.name }}</span>
          <input
            :value="place.address"
            class="text-input w-200 px-9"
            placeholder="192.168.1.20:5025"
            maxlength="200"
            autocomplete="off"
            spellcheck="false"
            @input="place.set(($event.target as HTMLInputElement).value.trim())"
        /></label>
        <div v-for="test in tests" :key="test.key" class="grid gap-4">
          <b>{{ test.title }}</b>
          <p class="m-0 quiet">{{ test.connect }}</p>
          <div class="flex flex-wrap gap-8">
            <ElButton :disabled="!supply || !load" plain @click="start(test.key)">Test it</ElButton>
            <ElButton v-if="conversion.build?.practice" plain @click="start(test.key, true)"
              >Test it on the simulated bench</ElButton
            >
          </div>
        </div>
      </template>
      <button
        v-else
        type="button"
        class="bare justify-self-start min-w-180 min-h-48 rounded bg-stop text-paper text-large font-bold text-center"
        @click="stop"
      >
        Stop, off
      </button>
      <p v-if="problem || news?.failure" class="error-line" role="alert">{{ problem || news?.failure }}</p>
      <template v-if="news">
        <div v-if="runs" role="status" class="grid gap-4">
          <span v-if="news.newest" class="font-mono"
            >{{ news.newest.supply_v.text }} {{ news.newest.supply_a.text }} in, {{ news.newest.load_v.text }}
            {{ news.newest.load_a.text }} out</span
          >
          <progress class="w-full h-6 accent-copper" :value="news.share" aria-label="Settings read" />
        </div>
        <p v-if="news.result" class="m-0" role="status">
          <b>{{ news.result }}</b>
        </p>
        <p v-if="news.says" class="m-0 quiet">{{ news.says }}</p>
        <ElButton v-if="news.edits.length" class="justify-self-start" type="primary" plain @click="learn"
          >Put it into the plan</ElButton
        >
      </template>
    </div>
  </details>
</template>
