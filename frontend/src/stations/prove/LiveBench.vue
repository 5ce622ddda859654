<script setup lang="ts">
/** The simulated bench: this very build on an instrument, live at a chosen pace or all at once. */
import { computed, onMounted, ref, watch } from 'vue'

import { api, sentenceOf, type SimulatedBench } from '@/api/client'
import LiveRun from '@/stations/prove/LiveRun.vue'
import { useLiveRun } from '@/stations/prove/useLiveRun'
import PickField from '@/kit/PickField.vue'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

type InstrumentKind = SimulatedBench['instruments'][number]['kind']
type Fault = SimulatedBench['faults'][number]['fault']

const emit = defineEmits<{ log: [name: string, csv: string] }>()
const conversion = useConversion()
const bench = ref<SimulatedBench>()
const instrument = ref<InstrumentKind>('cell_meters')
const fault = ref<Fault | ''>('')
const speedUp = ref(1800)
const PACES = [
  { value: 60, label: t('a minute in a second') },
  { value: 600, label: t('ten minutes in a second') },
  { value: 1800, label: t('half an hour in a second') },
  { value: 7200, label: t('two hours in a second') },
]
onMounted(async () => (bench.value = (await api.GET('/api/instruments')).data))

const live = useLiveRun(String(conversion.stored?.id))
const view = ref<InstanceType<typeof LiveRun>>()
const shown = computed(() => bench.value?.instruments.find((one) => one.kind === instrument.value))
const instruments = computed(() =>
  (bench.value?.instruments ?? []).map(({ kind, label }) => ({ value: kind, label })),
)
const faults = computed(() => [
  { value: '' as const, label: t('nothing wrong') },
  ...(bench.value?.faults ?? [])
    .filter((one) => one.shown_by.includes(instrument.value))
    .map((one) => ({ value: one.fault, label: one.says })),
])
watch(faults, (now) => {
  if (!now.some((one) => one.value === fault.value)) fault.value = ''
})
const query = () => ({
  instrument: instrument.value,
  fault: fault.value || null,
  seed: Math.floor(Math.random() * 9999),
})
const runLive = () =>
  live.begin(() =>
    api.POST('/api/instruments/live', {
      params: { query: { ...query(), speed_up: speedUp.value } },
      body: conversion.question(),
    }),
  )

const problem = ref('')
async function atOnce(): Promise<void> {
  const { data, error } = await api.POST('/api/instruments/log', {
    params: { query: query() },
    body: conversion.question(),
  })
  problem.value = error ? sentenceOf(error) : ''
  if (data) emit('log', data.name, data.csv)
}
watch(live.state, (now, before) => {
  if (now === 'finished' && before === 'running' && !live.alarms.value.length) void view.value?.finished()
})
</script>

<template>
  <section aria-label="Simulated bench">
    <div class="flex flex-wrap items-center gap-8">
      <PickField v-model="instrument" label="Instrument" :options="instruments" />
      <PickField v-model="fault" label="Fault on the simulated bench" :options="faults" />
      <PickField v-model="speedUp" label="Pace" :options="PACES" />
      <ElButton v-if="live.state.value !== 'running'" @click="runLive">Run it live</ElButton>
      <ElButton v-else @click="live.stop">Stop</ElButton>
      <ElButton @click="atOnce">All at once</ElButton>
    </div>
    <p v-if="shown" class="quiet small">Simulated, on this very build: {{ shown.does }}.</p>
    <p v-if="problem || live.problem.value" class="error-line" role="alert">
      {{ problem || live.problem.value }}
    </p>
    <LiveRun ref="view" :live="live" @log="(name, csv) => emit('log', name, csv)" />
  </section>
</template>

<style scoped>
.pick {
  flex: 1 1 190px;
}
.el-button + .el-button {
  margin-left: 0;
}
</style>
