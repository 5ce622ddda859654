<script setup lang="ts">
/** The first charge, attended: what to do when, readings held against their limits, and the hour of rest after it. */
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'

import { api, type FirstCharge, type ShownNow } from '@/api/client'
import AlarmBar from '@/stations/prove/AlarmBar.vue'
import ReadMeter from '@/components/ReadMeter.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { inItsUnit } from '@/composables/useQuantity'
import { useQuestion } from '@/composables/useQuestion'
import { useUnits } from '@/composables/useUnits'
import { amps, duration, volts } from '@/format'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const conversion = useConversion()
const plan = useQuestion<FirstCharge>(
  async (body) => await api.POST('/api/questions/first-charge', { body }),
  20,
)
const watched = computed(() => conversion.build?.record.first_charge)
const path = computed(() => `${conversion.buildPath}.record.first_charge`)
const now = ref(Date.now())
useIntervalFn(() => (now.value = Date.now()), 1000)

const minutesSince = (iso: string | null | undefined) =>
  iso ? Math.max(0, (now.value - Date.parse(iso)) / 60_000) : 0
const minutes = computed(() => minutesSince(watched.value?.started_at))
const clock = (value: number) =>
  `${Math.floor(value / 60)}:${String(Math.floor(value % 60)).padStart(2, '0')}:${String(Math.floor((value * 60) % 60)).padStart(2, '0')}`
const going = computed(() => Boolean(watched.value?.started_at) && !watched.value?.ended_at)
const due = computed(() =>
  [...(plan.value?.prompts ?? [])].reverse().find((one) => one.minutes <= minutes.value),
)
const next = computed(() => plan.value?.prompts.find((one) => one.minutes > minutes.value))
const restLeft = computed(() => (plan.value?.rest_minutes ?? 60) - minutesSince(watched.value?.ended_at))

const stamp = () => `${new Date().toISOString().slice(0, 19)}Z`
function set(changes: Record<string, unknown>): void {
  conversion.change((document) => {
    const { record } = document.builds[conversion.buildIndex]!
    record.first_charge = { ...record.first_charge, ...changes }
  })
}
const fields = ref({ volts: '', current_a: '', celsius: '' })
const units = useUnits()
/** What each field is called, and its unit: that of a number alone. */
const FIELDS = [
  { key: 'volts', says: t('at the cell'), label: t('Volts read'), unit: 'V' },
  { key: 'current_a', says: t('into it'), label: t('Current read'), unit: 'mA' },
  { key: 'celsius', says: t('the cell'), label: t('Degrees read'), unit: '°C' },
] as const
function note(): void {
  const read: Record<string, unknown> = { minutes: minutesNow() }
  for (const { key, unit } of FIELDS) {
    const text = fields.value[key].trim()
    if (text) read[key] = inItsUnit(text, units.here(unit))
  }
  if (Object.keys(read).length === 1) return
  keepReading({ ...read, origin: 'typed' })
  fields.value = { volts: '', current_a: '', celsius: '' }
}
function keepReading(read: Record<string, unknown>): void {
  void conversion.addRow(`${path.value}.readings`, read)
}
function fromMeter(shown: ShownNow): void {
  const { volts, amps, celsius, origin } = shown
  keepReading({ minutes: minutesNow(), volts, current_a: amps, celsius, origin })
}
const minutesNow = () => Math.round(minutes.value * 10) / 10
const readings = computed(() =>
  (watched.value?.readings ?? [])
    .map((one, index) => ({ ...one, index }))
    .reverse()
    .slice(0, 8),
)
const FIGURES = { volts: 'volts', current_a: 'amps', celsius: 'degrees' }
/** What the core says of one reading, figure by figure. */
function refusedOf(index: number): string[] {
  return Object.entries(FIGURES).flatMap(([key, figure]) => {
    const sentence = conversion.refusalAt(`${path.value}.readings.${index}.${key}`)
    return sentence ? [`${figure}: ${sentence}`] : []
  })
}
/** A number is formatted; a text that was just typed stays as it is until it is saved. */
const shown = (value: number | string | null | undefined, as: (value: number) => string) =>
  typeof value === 'number' ? as(value) : (value ?? '')
</script>

<template>
  <!-- Its room is kept from the start, or it would push aside what is below. -->
  <div v-if="!plan" class="min-h-200 quiet">
    <p v-if="plan === null">A first charge can be watched here once the build has a cell and a charger.</p>
  </div>
  <section
    v-else
    class="px-16 pt-4 pb-12 border border-l-5 border-line2 border-l-copper rounded bg-sheet"
    aria-label="First charge"
  >
    <h2>First charge, attended</h2>
    <AlarmBar :alarms="plan.alarms" offer />
    <template v-if="!watched?.started_at">
      <p class="quiet">
        {{ plan.prompts[0]?.says }}. At most {{ plan.limits.most_a.text }}, {{ plan.limits.most_v.text }} and
        {{ plan.limits.most_c.text }}; over within {{ plan.limits.longest_h.text }}. Stay with it.
      </p>
      <ElButton type="primary" plain @click="set({ started_at: stamp() })"
        >It is plugged in: start the clock</ElButton
      >
    </template>
    <template v-else-if="going">
      <p class="flex flex-wrap items-baseline gap-y-4 gap-x-18 text-large">
        <b class="text-[26px] font-mono font-semibold" role="timer">{{ clock(minutes) }}</b>
        <span v-if="due">{{ due.says }}</span>
      </p>
      <p v-if="next" class="quiet">At {{ clock(next.minutes) }}: {{ next.says }}</p>
      <form @submit.prevent="note">
        <label v-for="field in FIELDS" :key="field.key"
          >{{ units.here(field.unit) }} {{ field.says }}
          <input
            v-model="fields[field.key]"
            class="w-76 h-34 px-8 py-0 framed bg-paper text-ink text-body font-mono"
            inputmode="decimal"
            :aria-label="field.label"
        /></label>
        <ElButton native-type="submit" size="small">Note it</ElButton>
        <ReadMeter :figures="['volts', 'amps', 'celsius']" @reading="fromMeter" />
        <ElButton size="small" @click="set({ ended_at: stamp() })">It has ended</ElButton>
      </form>
    </template>
    <template v-else>
      <p>
        Charged in
        <b>{{ duration((Date.parse(watched.ended_at!) - Date.parse(watched.started_at)) / 3600000) }}</b>.
        <template v-if="restLeft > 0"
          >An hour of rest, unplugged: <b role="timer">{{ clock(restLeft) }}</b> to go.</template
        >
        <b v-else-if="plan.rest_drop_v == null">The hour is over: read the volts now.</b>
      </p>
      <p v-if="plan.ended_says" class="quiet" role="status">{{ plan.ended_says }}</p>
      <div class="rest">
        <QuantityField :path="`${path}.full_v`" label="Right after the end" unit="V" />
        <QuantityField :path="`${path}.rested_v`" label="After the hour" unit="V" />
      </div>
      <p
        v-if="plan.rest_says"
        :class="{ 'error-line': plan.rest_drop_v!.value > plan.rest_drop_limit_v.value }"
        role="status"
      >
        {{ plan.rest_says }}
      </p>
      <button
        type="button"
        class="bare text-copper font-semibold"
        @click="set({ started_at: null, ended_at: null, readings: [], full_v: null, rested_v: null })"
      >
        Watch another charge
      </button>
    </template>
    <ul v-if="readings.length" class="mx-0 mt-6 mb-0 p-0 list-none">
      <li v-for="one in readings" :key="one.index">
        <span class="quiet">{{ clock(Number(one.minutes)) }}</span>
        {{
          [shown(one.volts, volts), shown(one.current_a, amps), shown(one.celsius, (c) => `${c} °C`)]
            .filter(Boolean)
            .join(', ')
        }}
        <button
          type="button"
          class="bare"
          :aria-label="`Strike out reading ${one.index + 1}`"
          @click="conversion.removeRow(`${path}.readings`, one.index)"
        >
          ×
        </button>
        <p v-for="sentence in refusedOf(one.index)" :key="sentence" class="error-line" role="alert">
          {{ sentence }}
        </p>
      </li>
    </ul>
  </section>
</template>

<style scoped>
form,
.rest {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
  margin: 8px 0;
}
.error-line {
  margin: 0;
  color: var(--stop);
}
</style>
