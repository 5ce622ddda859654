<script setup lang="ts">
/** Prove: a log of a charge or a run-down beside what was predicted, what it shows, and what the numbers learn from it. */
import { computed, onMounted, ref, watch } from 'vue'

import {
  api,
  send,
  sentenceOf,
  type KeptLog,
  type LogReply,
  type Problem,
  type BuiltReply,
} from '@/api/client'
import LogChart from '@/stations/prove/LogChart.vue'
import AsBuiltTable from '@/components/AsBuiltTable.vue'
import FirstChargeWatch from '@/stations/prove/FirstChargeWatch.vue'
import PredictionHistory from '@/stations/prove/PredictionHistory.vue'
import QuantityField from '@/kit/QuantityField.vue'
import PickField from '@/kit/PickField.vue'
import LevelMark from '@/kit/LevelMark.vue'
import LiveBench from '@/stations/prove/LiveBench.vue'
import MeterBench from '@/stations/prove/MeterBench.vue'
import PracticeLine from '@/components/PracticeLine.vue'
import LogBook from '@/components/LogBook.vue'
import LogExplanations from '@/stations/prove/LogExplanations.vue'
import CalibrationOffers from '@/stations/prove/CalibrationOffers.vue'
import { useNewest } from '@/composables/useNewest'
import { useQuestion } from '@/composables/useQuestion'
import { amps, duration, milliampHours, volts } from '@/format'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const conversion = useConversion()
const picker = ref<HTMLInputElement>()
const reply = ref<LogReply>()
/** The log that is read: kept by the server under this number. */
const log = ref<KeptLog>()
const kept = ref<KeptLog[]>([])
const problem = ref('')

const lines = useQuestion<BuiltReply>(
  async (body) => await api.POST('/api/questions/sheet/as-built', { body }),
)
const question = () => conversion.question()

/** How figures in doubt are meant, as the maker said. */
type Mend = LogReply['doubts'][number]['mends'][number]
const mends = ref<Mend['key'][]>([])
function settle(mend: Mend): void {
  mends.value.push(mend.key)
  void read()
}
/** One of several charges and run-downs in a file; another can be looked at any time. */
const ofAPiece = (key: string) => key.startsWith('piece') || key.startsWith('the_')
function pick(key: string): void {
  mends.value = [...mends.value.filter((each) => !ofAPiece(each)), key]
  void read()
}
const asked = computed(() =>
  (reply.value?.doubts ?? []).map((doubt) => ({
    says: doubt.says,
    mends: doubt.mends.filter(({ key }) => !ofAPiece(key)),
  })),
)

const newest = useNewest()
let columnsAsked: (number | null)[] | null = null
async function read(places: (number | null)[] | null = null): Promise<void> {
  if (!log.value) return
  columnsAsked = places
  const body = { ...question(), log_id: log.value.id, places, mends: mends.value }
  const heard = await newest(api.POST('/api/questions/log', { body }))
  if (!heard) return
  const { data, error } = heard
  problem.value = error ? sentenceOf(error) : ''
  if (data) reply.value = data
}

// What it is held against has changed: here, by an undo, in another window.
watch(
  () => conversion.stored?.revision,
  () => void read(columnsAsked),
)

async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) await keep(file.name, file)
}

const logsOf = () => `/api/projects/${conversion.stored!.id}/logs`
/** Sent once as it is; whatever is asked of it later goes by its number. */
async function keep(name: string, content: Blob | string): Promise<void> {
  const answer = await send(`${logsOf()}?${new URLSearchParams({ name: name.slice(0, 120) })}`, {
    method: 'POST',
    headers: { 'Content-Type': 'text/csv' },
    body: content,
  })
  if (!answer.ok) {
    problem.value = sentenceOf((await answer.json()) as Problem)
    return
  }
  await show((await answer.json()) as KeptLog)
  await list()
}
async function show(one: KeptLog): Promise<void> {
  log.value = one
  mends.value = []
  await read()
}
async function list(): Promise<void> {
  const path = { project_id: conversion.stored!.id }
  kept.value = (await api.GET('/api/projects/{project_id}/logs', { params: { path } })).data ?? kept.value
}
async function strikeOut(one: KeptLog): Promise<void> {
  const path = { project_id: conversion.stored!.id, log_id: one.id }
  await api.DELETE('/api/projects/{project_id}/logs/{log_id}', { params: { path } })
  if (log.value?.id === one.id) {
    newest.drop()
    log.value = reply.value = undefined
  }
  await list()
}
onMounted(list)

const seen = computed(() => reply.value?.analysis)
const COLUMNS = ['time', 'volts', 'amps', 'degrees']
const columns = computed(() => {
  const header = reply.value?.header ?? []
  const named = Array.from(
    { length: Math.max(header.length, 4) },
    (_, n) => header[n] || t('column {value}', { value: n + 1 }),
  )
  return [{ value: -1, label: t('none') }, ...named.map((label, value) => ({ value, label }))]
})
function replace(which: number, column: number): void {
  const places = [...reply.value!.places]
  places[which] = column < 0 ? null : column
  void read(places)
}

const summary = computed(() => {
  const run = seen.value
  if (!run) return t('A log of the first charge, or of a run-down: from your meter.')
  const what = run.kind === 'charge' ? 'charged' : 'ran'
  const predicted = reply.value?.predicted?.total_hours
  return `${log.value?.name}: ${what} ${duration(run.flow_hours)}${predicted ? t(', {predicted} predicted', { predicted: predicted.text }) : ''}, ${milliampHours(run.charge_ah)}.`
})
</script>

<template>
  <div>
    <h1>Measured beside predicted</h1>
    <p class="quiet" role="status">{{ summary }}</p>
    <div class="flex flex-wrap items-center gap-y-8 gap-x-12 mx-0 my-10">
      <ElButton type="primary" @click="picker?.click()">Read a log …</ElButton>
      <input
        ref="picker"
        type="file"
        accept=".csv,.txt,.tsv,text/csv,text/plain"
        class="visually-hidden"
        tabindex="-1"
        aria-label="Log file"
        @change="take"
      />
      <RouterLink to="/trainer" class="tap quiet">practise on faulty benches</RouterLink>
    </div>
    <PracticeLine />
    <LiveBench v-if="conversion.build?.practice" @log="keep" />
    <MeterBench @log="keep" />
    <p v-if="reply?.simulated && !conversion.build?.practice" class="error-line" role="alert">
      This log is simulated: a real build learns nothing from it.
    </p>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>

    <ul v-if="kept.length" class="mx-0 mt-0 mb-8 p-0 list-none" aria-label="Logs that are kept">
      <li v-for="one in kept" :key="one.id" class="flex items-baseline gap-10">
        <button type="button" class="bare link-button" :aria-pressed="one.id === log?.id" @click="show(one)">
          {{ one.name }}
        </button>
        <span class="quiet small">{{ one.made_at.slice(0, 10) }}, {{ Math.ceil(one.size / 1000) }} kB</span>
        <button type="button" class="bare" :aria-label="`Strike out ${one.name}`" @click="strikeOut(one)">
          ×
        </button>
      </li>
    </ul>
    <section v-if="reply?.doubts.length" aria-label="To be settled first">
      <h2>To be settled first</h2>
      <p v-for="doubt in asked" :key="doubt.says" class="doubt">
        {{ doubt.says }}
        <ElButton v-for="mend in doubt.mends" :key="mend.key" size="small" @click="settle(mend)">
          {{ mend.label }}
        </ElButton>
      </p>
    </section>
    <section v-if="reply?.pieces.length" aria-label="Pieces of this log" class="mb-10">
      <h2>Pieces of this log</h2>
      <div class="flex flex-wrap gap-6">
        <ElButton
          v-for="(piece, index) in reply.pieces"
          :key="piece.key"
          size="small"
          class="m-0!"
          :aria-pressed="mends.includes(piece.key)"
          :type="mends.includes(piece.key) ? 'primary' : undefined"
          @click="pick(piece.key)"
        >
          {{ index + 1 }}. {{ piece.says }}
        </ElButton>
      </div>
    </section>
    <p v-if="reply" class="quiet small">{{ reply.says.join(' ') }}</p>
    <LogChart v-if="reply && !seen && reply.pieces.length" :reply="reply" />
    <template v-if="reply && seen">
      <LogChart :reply="reply" />
      <div class="pair grid grid-cols-2 gap-y-6 gap-x-32 narrow:grid-cols-1">
        <section aria-label="What it shows">
          <h2>What it shows</h2>
          <ul class="mx-0 mt-0 mb-8 p-0 list-none">
            <li v-for="finding in seen.findings" :key="finding.code">
              <LevelMark :level="finding.level" :size="13" /> {{ finding.headline }}
            </li>
            <li v-for="difference in reply.differences" :key="difference.code">
              <LevelMark :level="difference.level" :size="13" /> {{ difference.headline }}
            </li>
            <li v-if="!seen.findings.length && !reply.differences.length">
              <LevelMark level="pass" :size="13" /> Nothing out of the ordinary.
            </li>
          </ul>
          <LogExplanations
            v-if="log && reply.differences.length"
            :log-id="log.id"
            :from="log.name"
            :mends="mends"
            :prediction="reply.prediction"
            @adopted="read()"
          />
          <table class="ruled">
            <tbody>
              <tr v-for="phase in seen.phases" :key="phase.name">
                <td>{{ phase.name }}</td>
                <td class="number">{{ duration((phase.end_s - phase.start_s) / 3600) }}</td>
              </tr>
              <tr>
                <td>plateau</td>
                <td class="number">{{ amps(seen.plateau_a) }}</td>
              </tr>
              <tr v-if="seen.end_current_a">
                <td>ended at</td>
                <td class="number">{{ amps(seen.end_current_a) }}</td>
              </tr>
              <tr>
                <td>volts</td>
                <td class="number">{{ volts(seen.least_v) }} to {{ volts(seen.most_v) }}</td>
              </tr>
              <tr v-if="seen.interruptions.length">
                <td>interruptions</td>
                <td class="number">{{ seen.interruptions.length }}</td>
              </tr>
            </tbody>
          </table>
        </section>
        <section aria-label="What to learn">
          <h2>What the numbers may learn</h2>
          <QuantityField path="meter_share" unit="%" label="Meter right to" no-basis />
          <p v-if="seen.usb_side" class="quiet">
            Measured on the USB side: the charge is the cell's, its volts and resistance cannot be read from
            it.
          </p>
          <CalibrationOffers
            :offers="reply.calibration_offers"
            :prediction="reply.prediction"
            :from="log!.name"
            @adopted="read()"
          />
          <p v-if="!reply.calibration_offers.length" class="quiet">
            Too little in this log to tell a figure by.
          </p>
          <h2>Columns as they were taken</h2>
          <div class="grid gap-y-6">
            <PickField
              v-for="(what, which) in COLUMNS"
              :key="what"
              :model-value="reply.places[which] ?? -1"
              :label="`Column of ${what}`"
              :options="columns"
              shown
              class="justify-between"
              @update:model-value="replace(which, $event)"
            />
          </div>
          <p v-if="reply.bad_count" class="error-line" role="alert">
            {{ reply.bad_count }} rows left out: line
            {{
              reply.bad_rows
                .slice(0, 5)
                .map((row) => `${row.line} (“${row.why}”)`)
                .join(', line ')
            }}
          </p>
          <a class="mt-10" :href="`${logsOf()}/${log!.id}`" download>Save this log as CSV</a>
        </section>
      </div>
    </template>
    <FirstChargeWatch class="first" />
    <PredictionHistory :now="lines?.prediction ?? null" />
    <AsBuiltTable :figures="lines?.as_built ?? []" />
    <LogBook v-if="lines !== undefined || conversion.stale" station="prove" />
  </div>
</template>

<style scoped>
.first {
  margin-top: 18px;
}
h2 {
  margin: 14px 0 4px;
}
li {
  padding: 4px 0;
}
</style>
