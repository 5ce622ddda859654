<script setup lang="ts">
/** Find the fault: six benches with something wrong, measured on and judged; kept through a reload. */
import { useLocalStorage } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'

import { api, sentenceOf, type Trainer, type TrainerGrade } from '@/api/client'
import PickField from '@/kit/PickField.vue'
import PageFrame from '@/kit/PageFrame.vue'
import { t } from '@/words'

type Probe = Trainer['probes'][number]['probe']
interface Attempt {
  seed: number
  readings: { probe: Probe; text: string }[]
  grade?: TrainerGrade
}
const offer = ref<Trainer>()
const at = useLocalStorage('pocket-spark-trainer-at', 'lamp')
const attempts = useLocalStorage<Record<string, Attempt>>('pocket-spark-trainer', {})
const problem = ref('')
type Conclusion = Trainer['conclusions'][number]['conclusion']
const concluded = ref<Conclusion | ''>('')
const conclusions = computed(() =>
  (offer.value?.conclusions ?? []).map(({ conclusion, says }) => ({ value: conclusion, label: says })),
)

onMounted(async () => {
  document.title = t('Find the fault · Pocket Spark')
  offer.value = (await api.GET('/api/trainer')).data
})

const fresh = (): Attempt => ({ seed: Math.floor(Math.random() * 100_000), readings: [] })
const attempt = computed(() => attempts.value[at.value])
const bench = computed(() => offer.value?.benches.find((one) => one.key === at.value))
const labelOf = (probe: Probe) => offer.value!.probes.find((one) => one.probe === probe)!
const minutes = computed(() =>
  (attempt.value?.readings ?? []).reduce((sum, one) => sum + labelOf(one.probe).minutes, 0),
)
const points = computed(() =>
  Object.values(attempts.value).reduce((sum, one) => sum + (one.grade?.points ?? 0), 0),
)
const done = (probe: Probe) => attempt.value?.readings.some((one) => one.probe === probe)

function show(key: string): void {
  at.value = key
  concluded.value = ''
}
async function measure(probe: Probe): Promise<void> {
  const key = at.value
  const now = (attempts.value[key] ??= fresh())
  const { data, error } = await api.GET('/api/trainer/{bench}/{probe}', {
    params: { path: { bench: key, probe }, query: { seed: now.seed } },
  })
  problem.value = error ? sentenceOf(error) : ''
  // Added to what was read meanwhile: two probes may be under way at once.
  const had = attempts.value[key] ?? now
  if (data && had.seed === now.seed && !had.readings.some((one) => one.probe === probe))
    attempts.value = { ...attempts.value, [key]: { ...had, readings: [...had.readings, data] } }
}
async function conclude(): Promise<void> {
  if (!concluded.value) return
  const key = at.value
  const now = attempts.value[key] ?? fresh()
  const { data, error } = await api.POST('/api/trainer/{bench}/grade', {
    params: { path: { bench: key } },
    body: { measured: now.readings.map((one) => one.probe), conclusion: concluded.value },
  })
  problem.value = error ? sentenceOf(error) : ''
  if (data) attempts.value = { ...attempts.value, [key]: { ...now, grade: data } }
}
function again(): void {
  attempts.value = { ...attempts.value, [at.value]: fresh() }
  concluded.value = ''
}
</script>

<template>
  <PageFrame title="Find the fault" :width="1000">
    <p class="quiet">
      Six benches, one thing wrong with each. Measure what tells, no more; then say what it is.
      <b v-if="points">{{ points }} of 60 points so far.</b>
    </p>
    <div
      v-if="offer && bench"
      class="pair grid grid-cols-[150px_minmax(0,1fr)] gap-28 mt-16 narrow:grid-cols-1"
    >
      <nav
        class="flex flex-col border-r border-line2 narrow:border-0 narrow:flex-row narrow:flex-wrap"
        aria-label="Benches"
      >
        <button
          v-for="(one, index) in offer.benches"
          :key="one.key"
          class="flex justify-between px-12 py-8 border-r-3 border-transparent text-ink2 text-left narrow:gap-6"
          type="button"
          :class="['bare', { 'is-current': one.key === at }]"
          :aria-current="one.key === at ? 'page' : undefined"
          @click="show(one.key)"
        >
          Bench {{ index + 1 }}
          <span v-if="attempts[one.key]?.grade" class="text-copper font-mono"
            >{{ attempts[one.key]!.grade!.points }}/10</span
          >
        </button>
      </nav>
      <section aria-label="The bench">
        <p class="px-16 py-12 border-l-5 border-copper bg-sheet text-large">{{ bench.complaint }}</p>
        <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
        <template v-if="!attempt?.grade">
          <h2 class="mx-0 mt-18 mb-6">Measure</h2>
          <ul class="probes grid grid-cols-2 gap-y-0 gap-x-24 m-0 p-0 list-none narrow:grid-cols-1">
            <li
              v-for="probe in offer.probes"
              :key="probe.probe"
              class="flex flex-col px-0 py-6 border-b border-line"
            >
              <button
                type="button"
                class="bare text-copper font-semibold text-left disabled:text-ink3 disabled:cursor-default"
                :disabled="done(probe.probe)"
                @click="measure(probe.probe)"
              >
                {{ probe.label }}
              </button>
              <span class="quiet small">{{ probe.instrument }}, {{ probe.minutes }} min</span>
            </li>
          </ul>
        </template>
        <h2 class="mx-0 mt-18 mb-6">
          On the bench sheet<span v-if="minutes" class="quiet small">, {{ minutes }} min</span>
        </h2>
        <table v-if="attempt?.readings.length" class="ruled" aria-label="Readings">
          <tbody>
            <tr v-for="one in attempt.readings" :key="one.probe">
              <td>{{ labelOf(one.probe).label }}</td>
              <td class="number">
                <b>{{ one.text }}</b>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-else class="quiet">Nothing measured yet.</p>
        <form v-if="!attempt?.grade" class="flex flex-wrap gap-10 mt-16" @submit.prevent="conclude">
          <PickField
            v-model="concluded"
            label="What is wrong"
            :options="conclusions"
            empty="What is wrong?"
          />
          <ElButton type="primary" native-type="submit" :disabled="!concluded">That is it</ElButton>
        </form>
        <div v-else :class="['grade', attempt.grade.right ? 'right' : 'wrong']" role="status">
          <p class="text-title font-mono font-bold">{{ attempt.grade.points }} of 10</p>
          <p v-for="line in attempt.grade.said" :key="line">{{ line }}</p>
          <p class="quiet">{{ attempt.grade.explanation }}</p>
          <ElButton size="small" @click="again">The same fault on another bench</ElButton>
        </div>
      </section>
    </div>
  </PageFrame>
</template>

<style scoped>
nav button.is-current {
  border-color: var(--copper);
  color: var(--ink);
  font-weight: 700;
}
.grade {
  margin-top: 16px;
  padding: 12px 16px;
  border: 1px solid var(--line2);
  border-left: 5px solid var(--pass);
  background: var(--sheet);
}
.grade.wrong {
  border-left-color: var(--stop);
}
.grade p {
  margin-bottom: 8px;
}
</style>
