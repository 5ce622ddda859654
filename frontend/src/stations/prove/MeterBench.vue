<script setup lang="ts">
/** A run recorded from the maker's own meters: one that gives volts and amps, or two on one clock. */
import { computed, onMounted, ref, watch } from 'vue'

import { api, type MeterConnection } from '@/api/client'
import LiveRun from '@/stations/prove/LiveRun.vue'
import MeterEditor from '@/stations/prove/MeterEditor.vue'
import { useLiveRun } from '@/stations/prove/useLiveRun'
import PickField from '@/kit/PickField.vue'
import { useConversion } from '@/stores/conversion'
import { useMeters } from '@/stores/meters'
import { t } from '@/words'

const emit = defineEmits<{ log: [name: string, csv: string] }>()
const conversion = useConversion()
const meters = useMeters()
onMounted(() => meters.load())

const live = useLiveRun(`${conversion.stored?.id}-meters`)
const view = ref<InstanceType<typeof LiveRun>>()
const chosen = ref<string[]>([])
const edited = ref<MeterConnection | 'new'>()
const what = ref<'charge' | 'run'>('charge')
const SHOWN = { volts: 'volts', amps: 'amps', celsius: 'degrees' }
const WHAT = [
  { value: 'charge', label: t('a charge, watched') },
  { value: 'run', label: t('a run-down') },
] as const

watch(
  () => meters.connections,
  (now) => {
    const names = now.map((meter) => meter.name)
    chosen.value = chosen.value.filter((name) => names.includes(name))
    if (!chosen.value.length && names.length === 1) chosen.value = names
  },
)
const using = computed(() => meters.connections.filter((meter) => chosen.value.includes(meter.name)))
const record = () =>
  live.begin(() =>
    api.POST('/api/instruments/live/recorded', {
      body: { ...conversion.question(), connections: using.value, charging: what.value === 'charge' },
    }),
  )
watch(live.state, (now, before) => {
  if (now === 'finished' && before === 'running' && !live.alarms.value.length) void view.value?.finished()
})
</script>

<template>
  <section aria-label="Your meters">
    <h2 class="mx-0 mt-14 mb-4">Record from your meters</h2>
    <p v-if="!meters.connections.length && !edited" class="quiet">
      A board that prints volts and amps on a serial line, or a bench meter that answers SCPI.
    </p>
    <ul v-if="meters.connections.length" class="mx-0 mt-0 mb-8 p-0 list-none">
      <li
        v-for="meter in meters.connections"
        :key="meter.name"
        class="flex flex-wrap items-center gap-y-4 gap-x-14"
      >
        <label class="flex-1"
          ><input v-model="chosen" type="checkbox" :value="meter.name" /> {{ meter.name }}
          <span class="quiet small"
            >{{ meter.reads.map((figure) => SHOWN[figure]).join(', ') }}, {{ meter.address }}</span
          ></label
        >
        <button type="button" class="bare link-button" @click="edited = meter">Change</button>
        <button type="button" class="bare link-button stop" @click="meters.remove(meter.name)">
          Let it go
        </button>
      </li>
    </ul>
    <MeterEditor
      v-if="edited && meters.offer"
      :key="edited === 'new' ? '' : edited.name"
      :offer="meters.offer"
      :meter="edited === 'new' ? undefined : edited"
      @done="edited = undefined"
    />
    <div class="flex flex-wrap items-center gap-y-4 gap-x-14 mt-8">
      <template v-if="meters.connections.length">
        <PickField v-model="what" label="What is recorded" :options="WHAT" />
        <ElButton
          v-if="live.state.value !== 'running'"
          :disabled="!using.length || using.length > 2"
          @click="record"
        >
          Record
        </ElButton>
        <ElButton v-else @click="live.stop">Stop</ElButton>
      </template>
      <button v-if="!edited" type="button" class="bare link-button" @click="edited = 'new'">
        Connect a meter …
      </button>
    </div>
    <p v-if="live.problem.value" class="error-line" role="alert">{{ live.problem.value }}</p>
    <LiveRun ref="view" :live="live" @log="(name, csv) => emit('log', name, csv)" />
  </section>
</template>
