<script setup lang="ts">
/** Find the fault: six benches with something wrong, measured on and judged; kept through a reload. */
import { useLocalStorage } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'

import { api, sentenceOf, type Trainer, type TrainerGrade } from '@/api/client'
import PickField from '@/kit/PickField.vue'
import PageFrame from '@/kit/PageFrame.vue'

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
  document.title = 'Find the fault · Pocket Spark'
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
  const now = attempts.value[at.value] ?? fresh()
  const { data, error } = await api.GET('/api/trainer/{bench}/{probe}', {
    params: { path: { bench: at.value, probe }, query: { seed: now.seed } },
  })
  problem.value = error ? sentenceOf(error) : ''
  if (data) attempts.value = { ...attempts.value, [at.value]: { ...now, readings: [...now.readings, data] } }
}
async function conclude(): Promise<void> {
  if (!concluded.value) return
  const now = attempts.value[at.value] ?? fresh()
  const { data, error } = await api.POST('/api/trainer/{bench}/grade', {
    params: { path: { bench: at.value } },
    body: { measured: now.readings.map((one) => one.probe), conclusion: concluded.value },
  })
  problem.value = error ? sentenceOf(error) : ''
  if (data) attempts.value = { ...attempts.value, [at.value]: { ...now, grade: data } }
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
    <div v-if="offer && bench" class="pair">
      <nav aria-label="Benches">
        <button
          v-for="(one, index) in offer.benches"
          :key="one.key"
          type="button"
          :class="['bare', { 'is-current': one.key === at }]"
          :aria-current="one.key === at ? 'page' : undefined"
          @click="show(one.key)"
        >
          Bench {{ index + 1 }}
          <span v-if="attempts[one.key]?.grade" class="got">{{ attempts[one.key]!.grade!.points }}/10</span>
        </button>
      </nav>
      <section aria-label="The bench">
        <p class="complaint">{{ bench.complaint }}</p>
        <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
        <template v-if="!attempt?.grade">
          <h2>Measure</h2>
          <ul class="probes">
            <li v-for="probe in offer.probes" :key="probe.probe">
              <button type="button" class="bare" :disabled="done(probe.probe)" @click="measure(probe.probe)">
                {{ probe.label }}
              </button>
              <span class="quiet small">{{ probe.instrument }}, {{ probe.minutes }} min</span>
            </li>
          </ul>
        </template>
        <h2>
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
        <form v-if="!attempt?.grade" @submit.prevent="conclude">
          <PickField
            v-model="concluded"
            label="What is wrong"
            :options="conclusions"
            empty="What is wrong?"
          />
          <ElButton type="primary" native-type="submit" :disabled="!concluded">That is it</ElButton>
        </form>
        <div v-else :class="['grade', attempt.grade.right ? 'right' : 'wrong']" role="status">
          <p class="points">{{ attempt.grade.points }} of 10</p>
          <p v-for="line in attempt.grade.said" :key="line">{{ line }}</p>
          <p class="quiet">{{ attempt.grade.explanation }}</p>
          <ElButton size="small" @click="again">The same fault on another bench</ElButton>
        </div>
      </section>
    </div>
  </PageFrame>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: 28px;
  margin-top: 16px;
}
nav {
  display: flex;
  flex-direction: column;
  border-right: 1px solid var(--line2);
}
nav button {
  display: flex;
  justify-content: space-between;
  padding: 8px 12px;
  border-right: 3px solid transparent;
  color: var(--ink2);
  text-align: left;
}
nav button.is-current {
  border-color: var(--copper);
  color: var(--ink);
  font-weight: 700;
}
.got {
  color: var(--copper);
  font-family: var(--mono);
}
.complaint {
  padding: 12px 16px;
  border-left: 5px solid var(--copper);
  background: var(--sheet);
  font-size: 17px;
}
h2 {
  margin: 18px 0 6px;
}
.probes {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 24px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.probes li {
  display: flex;
  flex-direction: column;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
.probes button {
  color: var(--copper);
  font-weight: 600;
  text-align: left;
}
.probes button:disabled {
  color: var(--ink3);
  cursor: default;
}
form {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin-top: 16px;
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
.points {
  font: 700 22px var(--mono);
}
@media (max-width: 700px) {
  .pair,
  .probes {
    grid-template-columns: minmax(0, 1fr);
  }
  nav {
    flex-flow: row wrap;
    border: 0;
  }
  nav button {
    gap: 6px;
    min-height: 40px;
  }
}
</style>
