<script setup lang="ts">
/** The bench clock: what to do now, what goes by itself meanwhile, and when each conversion is finished. */
import { computed, onMounted } from 'vue'

import { useBenchClock } from '@/pages/clock/useBenchClock'
import TimelineRows from '@/pages/clock/TimelineRows.vue'
import PageFrame from '@/kit/PageFrame.vue'
import { clockTime, dayName } from '@/format'
import { t } from '@/words'

const { bench, answer, problem, calendar, isSupported, permissionGranted, ensurePermissions } =
  useBenchClock()

onMounted(() => (document.title = t('Bench clock · Pocket Spark')))

const due = computed(() => answer.value?.timeline.due ?? [])
const next = computed(() => due.value[0])
/** Neighbouring tasks of one day under one heading. */
const days = computed(() => {
  const by = new Map<string, typeof due.value>()
  for (const one of due.value) by.set(dayName(one.begins), [...(by.get(dayName(one.begins)) ?? []), one])
  return [...by]
})
const finished = computed(() => Object.entries(answer.value?.timeline.ends ?? {}))
</script>

<template>
  <PageFrame title="Bench clock" back="the shelf" to="/">
    <form
      class="bench flex flex-wrap items-center gap-y-8 gap-x-18 mx-0 mt-10 mb-18"
      aria-label="What there is to work with"
      @submit.prevent
    >
      <label
        >chargers <input v-model.number="bench.chargers" class="text-input" type="number" min="1" max="20"
      /></label>
      <label
        >meters <input v-model.number="bench.meters" class="text-input" type="number" min="1" max="20"
      /></label>
      <label>from <input v-model="bench.day_begins" class="text-input" type="time" /></label>
      <label>to <input v-model="bench.day_ends" class="text-input" type="time" /></label>
      <label><input v-model="bench.ready" type="checkbox" /> with what is ready to build</label>
      <a v-if="due.length" :href="calendar" class="link-button" download="bench.ics">Calendar file</a>
      <button
        v-if="isSupported && !permissionGranted"
        type="button"
        class="bare link-button"
        @click="ensurePermissions()"
      >
        Tell me when it is time
      </button>
    </form>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>

    <template v-if="answer && next">
      <p class="now" role="status">
        <b>{{ clockTime(next.begins) }}</b>
        <RouterLink :to="next.page" class="tap">{{ next.job }}</RouterLink>
        <span>{{ next.title }}</span>
      </p>
      <TimelineRows :due="due" :now="answer.now" />
      <section v-for="[day, tasks] in days" :key="day">
        <h2 class="mx-0 mt-20 mb-4 text-ink">{{ day }}</h2>
        <table class="ruled">
          <tbody>
            <tr v-for="one in tasks" :key="one.page + one.job + one.step">
              <td class="number">{{ clockTime(one.begins) }} – {{ clockTime(one.ends) }}</td>
              <td>
                <RouterLink :to="one.page" class="tap">{{ one.job }}</RouterLink>
              </td>
              <td>
                {{ one.title }}
                <small v-if="one.waits_from" class="quiet block"
                  >waits since {{ clockTime(one.waits_from)
                  }}{{ one.attended ? ', stay near it' : ', goes by itself' }}</small
                >
                <small v-if="one.late" class="block text-caution"
                  >later than it is due: nobody is up then</small
                >
              </td>
            </tr>
          </tbody>
        </table>
      </section>
      <h2 class="mx-0 mt-20 mb-4 text-ink">Finished</h2>
      <ul>
        <li v-for="[job, at] in finished" :key="job">{{ job }}: {{ dayName(at) }}, {{ clockTime(at) }}</li>
        <li v-for="job in answer.timeline.blocked" :key="job">
          {{ job }}: not to the end, something in its findings stops it first
        </li>
        <li v-for="job in answer.timeline.left" :key="job">
          {{ job }}: does not end within a year: see how long it runs
        </li>
      </ul>
      <p v-if="answer.more" class="quiet">
        {{ answer.more }} more are not planned: finish some of these first.
      </p>
    </template>
    <p v-else-if="answer" class="empty">
      Nothing is on the bench. A conversion comes here with its first step done at Build; tick “with what is
      ready to build” to see how long the next ones would take.
    </p>
  </PageFrame>
</template>

<style scoped>
.bench [type='number'] {
  width: 58px;
}
.now {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: baseline;
  margin-bottom: 14px;
  padding: 10px 14px;
  border-left: 4px solid var(--copper);
  background: var(--sheet);
  font-size: 18px;
}
td:first-child {
  width: 120px;
}
td:nth-child(2) {
  width: 260px;
}
@media (max-width: 860px) {
  td:first-child,
  td:nth-child(2) {
    width: auto;
  }
  .bench :is(input, label) {
    min-height: 44px;
  }
}
</style>
