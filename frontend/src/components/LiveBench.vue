<script setup lang="ts">
/** The simulated bench: this very build on an instrument, live at a chosen pace or all at once. */
import { computed, onMounted, ref, watch } from 'vue'

import { api, sentenceOf, type SimulatedBench } from '@/api/client'
import LiveChart from '@/charts/LiveChart.vue'
import AlarmBar from '@/components/AlarmBar.vue'
import { useLiveRun } from '@/composables/useLiveRun'
import { amps, duration, volts } from '@/format'
import { useConversion } from '@/stores/conversion'

const emit = defineEmits<{ log: [name: string, csv: string] }>()
const conversion = useConversion()
const bench = ref<SimulatedBench>()
const instrument = ref('cell_meters')
const fault = ref('')
const speedUp = ref(1800)
const PACES = [
  { speed: 60, label: 'a minute in a second' },
  { speed: 600, label: 'ten minutes in a second' },
  { speed: 1800, label: 'half an hour in a second' },
  { speed: 7200, label: 'two hours in a second' },
]
onMounted(async () => (bench.value = (await api.GET('/api/instruments')).data))

const question = () => conversion.question()
const live = useLiveRun(String(conversion.stored?.id), question)
const shown = computed(() => bench.value?.instruments.find((one) => one.kind === instrument.value))
const faults = computed(() =>
  (bench.value?.faults ?? []).filter((one) => one.shown_by.includes(instrument.value as never)),
)
watch(faults, (now) => {
  if (!now.some((one) => one.fault === fault.value)) fault.value = ''
})

const problem = ref('')
async function atOnce(): Promise<void> {
  const query = {
    instrument: instrument.value as never,
    fault: (fault.value || null) as never,
    seed: Math.floor(Math.random() * 9999),
  }
  const { data, error } = await api.POST('/api/instruments/log', { params: { query }, body: question() })
  problem.value = error ? sentenceOf(error) : ''
  if (data) emit('log', data.name, data.csv)
}
async function finished(): Promise<void> {
  const csv = await live.csv()
  if (csv) emit('log', `${live.run.value!.name}.csv`, csv)
}
watch(live.state, (now, before) => {
  if (now === 'finished' && before === 'running' && !live.alarms.value.length) void finished()
})
const state = computed(() => {
  if (live.failure.value) return `It broke off: ${live.failure.value}. What came before is kept.`
  if (live.cutShort.value) return 'Pocket Spark was started anew meanwhile: this had been written until then'
  return live.state.value === 'finished' ? 'the run has ended' : live.run.value?.name
})
const last = computed(() => live.rows.value.at(-1))
</script>

<template>
  <section aria-label="Simulated bench">
    <div class="bar">
      <select v-model="instrument" aria-label="Instrument">
        <option v-for="one in bench?.instruments" :key="one.kind" :value="one.kind">{{ one.label }}</option>
      </select>
      <select v-model="fault" aria-label="Fault on the simulated bench">
        <option value="">nothing wrong</option>
        <option v-for="one in faults" :key="one.fault" :value="one.fault">{{ one.says }}</option>
      </select>
      <select v-model.number="speedUp" aria-label="Pace">
        <option v-for="pace in PACES" :key="pace.speed" :value="pace.speed">{{ pace.label }}</option>
      </select>
      <ElButton
        v-if="live.state.value !== 'running'"
        @click="live.start({ instrument, fault, speed_up: speedUp })"
        >Run it live</ElButton
      >
      <ElButton v-else @click="live.stop">Stop</ElButton>
      <ElButton @click="atOnce">All at once</ElButton>
    </div>
    <p v-if="shown" class="quiet small">Simulated, on this very build: {{ shown.does }}.</p>
    <p v-if="problem || live.problem.value" class="error-line" role="alert">
      {{ problem || live.problem.value }}
    </p>
    <AlarmBar :alarms="live.alarms.value" />
    <template v-if="live.run.value && last">
      <p class="now" role="status">
        <b>{{ duration(last[0] / 3600) }}</b> <b>{{ volts(last[1]) }}</b> <b>{{ amps(last[2]) }}</b>
        <b v-if="last[3] != null">{{ last[3].toFixed(0) }} °C</b>
        <span class="quiet">{{ state }}</span>
        <button v-if="live.state.value === 'finished'" type="button" class="bare" @click="finished">
          Read this log
        </button>
        <button v-if="live.state.value === 'finished'" type="button" class="bare" @click="live.forget">
          Clear the bench
        </button>
      </p>
      <LiveChart :rows="live.rows.value" :seconds="live.run.value.seconds" />
    </template>
  </section>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.el-button + .el-button {
  margin-left: 0;
}
.now {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 20px;
  margin-top: 10px;
}
.now b {
  font: 600 19px var(--mono);
}
.now button {
  color: var(--copper);
  font-weight: 600;
}
</style>
