<script setup lang="ts">
/** Build: one step at a time, large enough for the bench, with hold points that take a reading. */
import { computed, nextTick, ref, watch } from 'vue'

import { api, sentenceOf, type Procedure, type ShownNow } from '@/api/client'
import AtTheBench from '@/stations/build/AtTheBench.vue'
import BuildTest from '@/stations/build/BuildTest.vue'
import BuildLock from '@/stations/build/BuildLock.vue'
import FinishedBuild from '@/stations/build/FinishedBuild.vue'
import ReadMeter from '@/components/ReadMeter.vue'
import PracticeLine from '@/components/PracticeLine.vue'
import LogBook from '@/components/LogBook.vue'
import WiresToSolder from '@/stations/build/WiresToSolder.vue'
import StepTimer from '@/stations/build/StepTimer.vue'
import GuidePicture from '@/drawings/GuidePicture.vue'
import { useShortcuts } from '@/composables/useShortcuts'
import { useQuestion } from '@/composables/useQuestion'
import { useOpenPhotos } from '@/composables/useOpenPhotos'
import { unbroken } from '@/format'
import { useConversion } from '@/stores/conversion'
import type { MeterFigure } from '@/stores/meters'
import { t } from '@/words'

const conversion = useConversion()
const procedure = useQuestion<Procedure>(
  async (body) => (conversion.build?.cell ? await api.POST('/api/questions/procedure', { body }) : undefined),
  20,
)
const { late } = procedure
type Step = Procedure['steps'][number]

const at = ref('')
const steps = computed<Step[]>(() => procedure.value?.steps ?? [])
const step = computed(() => steps.value.find((one) => one.key === at.value) ?? steps.value[0])
const index = computed(() => steps.value.findIndex((one) => one.key === step.value?.key))
const done = computed(
  () => steps.value.filter((one) => one.state === 'done' || one.state === 'overridden').length,
)
/** One step as large as the screen. */
const atTheBench = ref(false)
const reading = ref('')
const reason = ref('')
/** What a meter has put into the field, and where that comes from, as long as it stands there untouched. */
const metered = ref<{ text: string; origin: ShownNow['origin'] }>({ text: '', origin: 'typed' })
const problem = ref('')

watch(procedure, (now, before) => {
  if (now && !before) at.value = now.next_step ?? now.steps[0]?.key ?? ''
})
// Another step, or another reading kept for it; a fresh answer alone takes nothing away that is being typed.
watch([() => step.value?.key, () => step.value?.reads, () => step.value?.override], () => {
  reading.value = step.value?.reads ?? ''
  reason.value = step.value?.override ?? ''
  problem.value = ''
})

function go(by: 1 | -1): void {
  const next = steps.value[index.value + by]
  if (next) at.value = next.key
}

const stamp = () => `${new Date().toISOString().slice(0, 19)}Z`

type Change = {
  done?: boolean
  value?: number
  override?: string
  photo_ids?: number[]
  origin?: ShownNow['origin']
}
/** The step that is open, of the build that is. What is asked for it belongs there, whatever is open by then. */
const here = () => ({ key: step.value!.key, build: conversion.build!.id })
/** Record this step; the core decides whether its hold is passed. */
function record(change: Change, { key, build } = here()): void {
  conversion.change((document) => {
    const record = document.builds.find(({ id }) => id === build)?.record
    if (!record) return
    const others = record.steps.filter((other) => other.step !== key)
    const old = record.steps.find((other) => other.step === key)
    const fresh = {
      step: key,
      done: false,
      value: null,
      override: '',
      photo_ids: [],
      origin: 'unknown' as const,
    }
    const photo_ids = [...(old?.photo_ids ?? []), ...(change.photo_ids ?? [])]
    record.steps = [...others, { ...fresh, ...old, ...change, photo_ids, at: stamp() }]
  })
}

const pass = () => conversion.within(passed)
async function passed(): Promise<void> {
  problem.value = ''
  if (step.value?.state === 'locked') return
  if (!step.value?.hold) {
    record({ done: true })
    go(1)
    return
  }
  const at = stamp()
  const place = here()
  const body = { ...conversion.question(), step: place.key, text: reading.value, at }
  const override = reason.value
  const origin = reading.value === metered.value.text ? metered.value.origin : 'typed'
  const { data, error } = await api.POST('/api/questions/step-reading', { body })
  problem.value = error ? sentenceOf(error) : ''
  if (data) {
    record({ done: true, value: data.value, override, origin }, place)
    if (origin !== 'simulated' && data.edits.length) await conversion.applyEdits(data.edits)
  }
  await nextTick()
}
/** A reading inside its limits moves on by itself; of any other step the answer comes after one has gone on. */
watch(
  () => [step.value?.key, step.value?.state] as const,
  ([key, state], [oldKey, oldState]) => {
    if (step.value?.hold && key === oldKey && oldState !== 'done' && state === 'done') go(1)
  },
)

/** The simulated multimeter, on this very build. */
async function simulated(): Promise<void> {
  const { key } = step.value!
  const { data, error } = await api.POST('/api/instruments/multimeter/{step}', {
    params: { path: { step: key }, query: { seed: Math.floor(Math.random() * 9999) } },
    body: conversion.question(),
  })
  // Shown where it was read: the maker may have gone on.
  if (step.value?.key !== key) return
  problem.value = error ? sentenceOf(error) : ''
  if (data) put(data.text, 'simulated')
}
function put(text: string, origin: ShownNow['origin']): void {
  reading.value = text
  metered.value = { text, origin }
}

/** What a connected meter could read at this checkpoint. */
const FIGURE_OF: Record<string, MeterFigure> = { V: 'volts', A: 'amps', C: 'celsius' }
const figure = computed(() => FIGURE_OF[step.value?.hold?.unit ?? ''])
function fromMeter(shown: ShownNow): void {
  const text = shown[`${figure.value!}_text`]
  if (text) put(text, shown.origin)
}

const photos = useOpenPhotos()
const picker = ref<HTMLInputElement>()
const shots = computed(() => photos.photos.filter((photo) => step.value?.photo_ids?.includes(photo.id)))
async function photograph(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  const place = here()
  await conversion.within(async () => {
    const kept = file && (await photos.add(file))
    if (kept) record({ photo_ids: [kept.id] }, place)
  })
}

const GO: Partial<Record<Step['state'], string>> = {
  done: t('Done, on to the next'),
  locked: t('Locked: something stops this build'),
}
const SIGNS: Record<Step['state'], string> = { open: '', done: '✓', held: '!', overridden: '~', locked: '×' }

useShortcuts({ n: () => go(1), p: () => go(-1), Enter: () => void pass() })
</script>

<template>
  <div>
    <h1>Step by step</h1>
    <p v-if="!conversion.build?.cell" class="quiet">Choose a cell first: the steps follow from the build.</p>
    <p v-else-if="procedure === null" class="quiet">No steps until what is marked as refused is mended.</p>
    <template v-else-if="steps.length">
      <p class="quiet">
        {{ done }} of {{ steps.length }} done; about {{ procedure!.bench_hours.text }} at the bench in all.
        Keys: n and p to go, Enter when done.
        <button type="button" class="bare tap text-copper font-semibold" @click="atTheBench = true">
          Large, for the bench
        </button>
        <template v-if="procedure!.fixed_at"
          >Its plan was fixed at the first cut, {{ procedure!.fixed_at.slice(0, 10) }}: its limits no longer
          move.</template
        >
      </p>
      <AtTheBench
        v-if="atTheBench && step"
        v-model:reading="reading"
        :step="step"
        :number="index + 1"
        :count="steps.length"
        :problem="problem"
        @done="pass"
        @back="go(-1)"
        @leave="atTheBench = false"
      />
      <PracticeLine />
      <BuildLock v-if="procedure?.lock" :lock="procedure.lock" />
      <FinishedBuild v-if="procedure?.finished && procedure.verdict" :verdict="procedure.verdict" />
      <progress
        class="w-full h-6 mx-0 mt-6 mb-10 accent-copper"
        :value="done"
        :max="steps.length"
        aria-label="Steps done"
      />
      <div class="grid grid-cols-[minmax(0,5fr)_minmax(0,4fr)] items-start gap-24 narrow:grid-cols-1">
        <article v-if="step" :class="['step', step.state, { late }]" aria-live="polite">
          <p class="count text-ink2 text-small">Step {{ index + 1 }}</p>
          <h2>{{ unbroken(step.title) }}</h2>
          <p>{{ step.why }}</p>
          <p v-if="step.caution" class="px-10 py-6 border-l-3 border-caution bg-paper">{{ step.caution }}</p>
          <ol v-if="step.how?.length" class="mx-0 mt-0 mb-10 pl-22">
            <li v-for="line in step.how" :key="line" class="px-0 py-2">{{ line }}</li>
          </ol>
          <p v-if="step.tools.length" class="quiet">Tools: {{ step.tools.join(', ') }}</p>
          <p v-if="step.materials.length" class="quiet">Materials: {{ step.materials.join(', ') }}</p>
          <WiresToSolder :key="`wires ${step.key}`" :step="step.key" />
          <StepTimer
            v-if="step.wait_s"
            :key="step.key"
            :name="`${conversion.stored?.id}-${step.key}`"
            :seconds="step.wait_s"
          />
          <div v-if="step.hold" class="hold mt-12 px-12 py-10 border border-line2 border-dashed">
            <p>
              <b>Checkpoint.</b> {{ step.hold.quantity }}, <b>{{ step.hold.limits }}</b>
            </p>
            <p v-if="step.theirs" class="quiet">{{ step.theirs }}</p>
            <p class="quiet">{{ step.hold.probes }}</p>
            <GuidePicture
              v-if="step.hold.picture"
              :picture="step.hold.picture"
              :label="`Where the probes go: ${step.hold.probes}`"
            />
            <label class="flex flex-wrap items-center gap-8 mt-8"
              >reads
              <input
                v-model="reading"
                class="w-130 h-44 px-12 py-0 framed bg-paper text-ink text-title font-mono"
                inputmode="decimal"
                :aria-label="`${step.hold.quantity}, ${step.hold.unit_sign}`"
                @keydown.enter="pass"
              />
              {{ step.hold.unit_sign }}</label
            >
            <ReadMeter v-if="figure" :figures="[figure]" @reading="fromMeter" />
            <BuildTest :step="step.key" @reading="put" />
            <button
              v-if="conversion.build?.practice"
              type="button"
              class="bare text-copper font-semibold"
              @click="simulated"
            >
              Read it with the simulated meter
            </button>
            <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
            <p v-if="step.reads" class="quiet">Kept: {{ step.reads }}, {{ step.origin }}.</p>
            <p v-if="step.state === 'open' && step.says" class="error-line" role="alert">{{ step.says }}.</p>
            <template v-if="step.state === 'held'">
              <p class="error-line" role="alert">Outside its limits. Most likely: {{ step.says }}.</p>
              <label v-if="step.hold.grade !== 'stop'" class="flex flex-wrap items-center gap-8 mt-8"
                >go on all the same, because
                <input
                  v-model="reason"
                  class="flex-1 w-130 h-44 min-w-180 px-12 py-0 framed bg-paper text-ink text-large font-sans"
                  aria-label="Reason to go on"
                  @keydown.enter="pass"
              /></label>
              <p v-else class="error-line">This one has no way round: find the cause.</p>
            </template>
          </div>
          <div v-if="shots.length" class="flex flex-wrap gap-8 mt-10">
            <img
              v-for="shot in shots"
              :key="shot.id"
              class="max-h-90 border border-line2"
              :src="photos.pixels(shot, 'thumbnail')"
              :alt="shot.caption"
            />
          </div>
          <p v-if="photos.problem" class="error-line" role="alert">{{ photos.problem }}</p>
          <div class="acts grid grid-cols-3 gap-10 mt-16">
            <button type="button" class="plain" :disabled="index <= 0" @click="go(-1)">Back</button>
            <button type="button" class="go" :disabled="step.state === 'locked'" @click="pass">
              {{ GO[step.state] ?? (step.hold ? 'Check it against the limits' : 'Done') }}
            </button>
            <button type="button" class="plain" :disabled="index >= steps.length - 1" @click="go(1)">
              Next
            </button>
            <button type="button" class="plain" @click="picker?.click()">Photograph</button>
            <input
              ref="picker"
              type="file"
              accept="image/*"
              capture="environment"
              class="visually-hidden w-130 h-44 px-12 py-0 framed bg-paper text-ink text-title font-mono"
              tabindex="-1"
              aria-label="Photograph of this step"
              @change="photograph"
            />
          </div>
        </article>
        <ol class="all m-0 p-0 list-none" aria-label="All steps">
          <li v-for="(one, number) in steps" :key="one.key">
            <button
              class="flex items-center gap-10 w-full px-8 py-4 leading-[1.3]"
              type="button"
              :class="['bare', one.state, { 'is-current': one.key === step?.key }]"
              :aria-current="one.key === step?.key ? 'step' : undefined"
              @click="at = one.key"
            >
              <i class="flex-none w-20 text-ink2 not-italic text-right" aria-hidden="true">{{
                SIGNS[one.state] || number + 1
              }}</i>
              {{ unbroken(one.title) }}
              <small v-if="one.hold" class="ml-auto text-ink2">checkpoint</small>
            </button>
          </li>
        </ol>
      </div>
      <LogBook station="build" />
    </template>
  </div>
</template>

<style scoped>
.step {
  padding: 14px 18px 18px;
  border: 1px solid var(--line2);
  border-left: 5px solid var(--copper);
  border-radius: 3px;
  background: var(--sheet);
  font-size: 16px;
}
.step.done {
  border-left-color: var(--pass);
}
.step.held {
  border-left-color: var(--stop);
}
.step h2 {
  margin: 2px 0 8px;
  color: var(--ink);
  font-size: 22px;
  line-height: 1.25;
}
.step p + p {
  margin-top: 6px;
}
.acts button {
  min-height: 52px;
  padding: 0 8px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--paper);
  font-size: 16px;
  cursor: pointer;
}
.acts .go {
  grid-column: 1 / -1;
  order: -1;
  border-color: var(--copper);
  background: var(--copper);
  color: var(--oncopper);
  font-weight: 700;
}
.acts button:disabled {
  color: var(--ink3);
  cursor: default;
}
.all button:hover {
  background: var(--sunk);
}
.all button.is-current {
  background: var(--copperwash);
  font-weight: 600;
}
.done i {
  color: var(--pass);
}
.held i,
.overridden i {
  color: var(--stop);
}
@media (max-width: 860px) {
  .acts .plain {
    padding: 0 12px;
  }
}
</style>
