<script setup lang="ts">
/** How one meter is reached and read; tried before it is kept, with what it wrote in view. */
import { computed, onMounted, ref, watch } from 'vue'

import { api, sentenceOf, type MeterConnection, type RealMeters, type TriedMeter } from '@/api/client'
import { useNewest } from '@/composables/useNewest'
import PickField from '@/kit/PickField.vue'
import { useMeters, type MeterFigure } from '@/stores/meters'
import { t } from '@/words'

const props = defineProps<{ offer: RealMeters; meter?: MeterConnection }>()
const emit = defineEmits<{ done: [] }>()
const meters = useMeters()

const fresh = (): MeterConnection => ({
  name: '',
  kind: 'serial',
  address: props.offer.ports[0]?.address ?? '',
  baud: props.offer.bauds[0]!,
  places: null,
  volts_in: 'V',
  amps_in: 'A',
  reads: ['volts', 'amps'],
  resolution_v: null,
  resolution_a: null,
})
const meter = ref<MeterConnection>({ ...fresh(), ...props.meter })
const tried = ref<TriedMeter>()
/** The button that opened it is gone: whoever works by keyboard goes on in its first field. */
const nameField = ref<HTMLInputElement>()
onMounted(() => nameField.value?.focus())
const problem = ref('')
const busy = ref(false)

const kinds = computed(() => props.offer.kinds.map(({ kind, label }) => ({ value: kind, label })))
const does = computed(() => props.offer.kinds.find((one) => one.kind === meter.value.kind)?.does)
const ports = computed(() =>
  props.offer.ports.map((port) => ({ value: port.address, label: port.address, detail: port.says })),
)
const bauds = computed(() => props.offer.bauds.map((baud) => ({ value: baud, label: `${baud} baud` })))
const GIVES: { value: string; label: string; reads: MeterFigure[] }[] = [
  { value: 'both', label: t('volts and amps'), reads: ['volts', 'amps'] },
  { value: 'all', label: t('volts, amps and degrees'), reads: ['volts', 'amps', 'celsius'] },
  { value: 'volts', label: t('volts alone'), reads: ['volts'] },
  { value: 'amps', label: t('amps alone'), reads: ['amps'] },
]
const gives = computed({
  get: () => GIVES.find((one) => one.reads.join() === meter.value.reads.join())?.value ?? 'both',
  set: (value) => (meter.value.reads = GIVES.find((one) => one.value === value)!.reads),
})
const bare = (unit: string) => [unit, `m${unit}`].map((value) => ({ value, label: value }))

const COLUMNS = [t('its seconds'), 'volts', 'amps', 'degrees']
/** As many columns as its last line of figures has; which holds what is the maker's to say. */
const columns = computed(() => {
  const count = Math.max(
    tried.value?.header.length ?? 0,
    (tried.value?.heard.at(-1) ?? '').split(/[,;\t]/).length,
  )
  const named = Array.from(
    { length: count },
    (_, n) => tried.value?.header[n] || t('column {value}', { value: n + 1 }),
  )
  return [{ value: -1, label: t('none') }, ...named.map((label, value) => ({ value, label }))]
})
function place(which: number, column: number): void {
  const places = [...(meter.value.places ?? tried.value?.places ?? [null, null, null, null])]
  places[which] = column < 0 ? null : column
  meter.value.places = places
  void tryOut()
}
const placeOf = (which: number) => (meter.value.places ?? tried.value?.places)?.[which] ?? -1

const newest = useNewest()
async function tryOut(): Promise<void> {
  busy.value = true
  const body = { ...meter.value, name: meter.value.name || 'meter' }
  const heard = await newest(api.POST('/api/instruments/meters/tried', { body }))
  if (!heard) return
  const { data, error } = heard
  busy.value = false
  tried.value = data
  problem.value = error ? sentenceOf(error) : (data?.says ?? '')
}
watch([() => meter.value.address, () => meter.value.kind], () => {
  newest.drop()
  busy.value = false
  tried.value = undefined
  meter.value.places = null
})
watch(
  () => meter.value.kind,
  (kind) => (meter.value.address = kind === 'serial' ? (props.offer.ports[0]?.address ?? '') : ''),
)
/** As typed: the core reads "1 mV", or refuses it. */
const lastDigit = ref({
  volts: props.meter?.resolution_v ?? '',
  amps: props.meter?.resolution_a ?? '',
})
async function keep(): Promise<void> {
  const { volts, amps } = lastDigit.value
  if (await meters.keep({ ...meter.value, resolution_v: volts || null, resolution_a: amps || null }))
    emit('done')
  else problem.value = meters.problem
}
</script>

<template>
  <form class="px-14 py-10 framed bg-sheet" aria-label="A meter" @submit.prevent="keep">
    <div class="fields grid grid-cols-[repeat(auto-fill,minmax(260px,1fr))] gap-y-8 gap-x-24">
      <label
        >Name
        <input
          ref="nameField"
          v-model="meter.name"
          class="text-input"
          maxlength="120"
          placeholder="bench meter"
      /></label>
      <PickField v-model="meter.kind" label="Reached by" :options="kinds" shown />
      <template v-if="meter.kind === 'serial'">
        <PickField v-if="ports.length" v-model="meter.address" label="Port" :options="ports" shown />
        <p v-else class="quiet">No serial port is there: plug the meter in, then <b>look again</b>.</p>
        <PickField v-model="meter.baud" label="Rate" :options="bauds" shown />
      </template>
      <label v-else
        >Address
        <input v-model="meter.address" class="text-input" maxlength="200" placeholder="192.168.1.20:5025"
      /></label>
      <PickField v-model="gives" label="Gives" :options="GIVES" shown />
      <template v-if="meter.kind === 'serial'">
        <PickField v-model="meter.volts_in" label="Bare volts in" :options="bare('V')" shown />
        <PickField v-model="meter.amps_in" label="Bare amps in" :options="bare('A')" shown />
      </template>
      <label
        >Last digit of volts <input v-model="lastDigit.volts" class="text-input" placeholder="1 mV"
      /></label>
      <label
        >Last digit of amps <input v-model="lastDigit.amps" class="text-input" placeholder="1 mA"
      /></label>
    </div>
    <p class="quiet small">{{ does }}.</p>
    <div class="flex flex-wrap items-baseline gap-y-4 gap-x-14 mt-8">
      <ElButton :loading="busy" :disabled="!meter.address" @click="tryOut">Try it</ElButton>
      <ElButton type="primary" native-type="submit" :disabled="!meter.name.trim() || !meter.address"
        >Keep it</ElButton
      >
      <button type="button" class="bare link-button" @click="meters.load()">Look again</button>
      <button type="button" class="bare link-button" @click="emit('done')">Leave it</button>
    </div>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <template v-if="tried">
      <p v-if="tried.reading" class="flex flex-wrap items-baseline gap-y-4 gap-x-14 mt-8" role="status">
        <b class="text-head font-mono font-semibold">{{ tried.reading.volts_text }}</b>
        <b class="text-head font-mono font-semibold">{{ tried.reading.amps_text }}</b>
        <b v-if="tried.reading.celsius_text" class="text-head font-mono font-semibold">{{
          tried.reading.celsius_text
        }}</b>
        <span class="quiet"
          >{{ tried.introduces
          }}<template v-if="tried.simulated"> Simulated: for practice copies alone.</template></span
        >
      </p>
      <pre
        class="mx-0 my-8 px-10 py-8 bg-sunk text-small font-mono overflow-x-auto"
        aria-label="What it wrote"
        >{{ tried.heard.join('\n') }}</pre>
      <div
        v-if="tried.places && columns.length > 2"
        class="fields grid grid-cols-[repeat(auto-fill,minmax(260px,1fr))] gap-y-8 gap-x-24"
      >
        <PickField
          v-for="(what, which) in COLUMNS"
          :key="what"
          :model-value="placeOf(which)"
          :label="`Column of ${what}`"
          :options="columns"
          shown
          @update:model-value="place(which, $event)"
        />
      </div>
    </template>
  </form>
</template>

<style scoped>
.fields > * {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
}
</style>
