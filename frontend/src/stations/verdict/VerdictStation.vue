<script setup lang="ts">
/** Should I, and with what? The answer as a headline, its reasons, what would change it, and days beside days. */
import { computed } from 'vue'

import DaysBars from '@/stations/verdict/DaysBars.vue'
import LoadField from '@/components/LoadField.vue'
import { api, type WorthIt } from '@/api/client'
import { useQuestion } from '@/composables/useQuestion'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const conversion = useConversion()
const base = computed(() => `/conversion/${conversion.stored?.id}`)
const worth = computed(() => conversion.assessment?.worth)
const build = computed(() => conversion.build)
const life = useQuestion(
  async (body) =>
    await api.POST('/api/questions/life', { body: { ...body, tries_levers: false, pulled: [] } }),
)
const { late: lifeLate } = life

/** What is missing before there can be an answer, and where it is given. */
const missing = computed(() => {
  const modes = conversion.document?.gadget.modes ?? []
  if (!modes.length)
    return { text: t('Say what it draws and when: that is most of the answer.'), to: 'survey' }
  if (!build.value?.cell) return { text: t('Choose a cell, or let builds be proposed.'), to: 'proposals' }
  return { text: t('Say how many hours a day it is used.'), to: 'survey' }
})

const change = (one: WorthIt['changes'][number]) => conversion.applyEdits(one.edits ?? [])
</script>

<template>
  <div class="verdict">
    <p class="quiet m-0">{{ conversion.assessment?.survey.supply }}, {{ build?.name }}</p>
    <template v-if="worth">
      <h1 class="answer" :class="worth.answer">{{ worth.headline }}</h1>
      <p v-if="life && conversion.assessment?.worst !== 'stop'" class="m-0 mt-4" :class="{ late: lifeLate }">
        {{ life.headline }}.
        <template v-for="season in life.seasons" :key="season.name"
          >{{ season.days.text }} on a charge in {{ season.name }}.
        </template>
        <RouterLink :to="`${base}/years?build=${conversion.buildIndex}`" class="tap font-semibold"
          >Its years</RouterLink
        >
      </p>
      <ul class="grid grid-cols-3 gap-18 m-0 mt-14 p-0 list-none narrow:grid-cols-1" aria-label="Reasons">
        <li v-for="reason in worth.reasons" :key="reason.title" class="pt-10 border-t-2 border-line2">
          <b class="text-large">{{ reason.title }}</b>
          <p class="m-0 mt-2 text-pretty">{{ reason.text }}</p>
        </li>
      </ul>
      <template v-if="worth.changes.length">
        <h2>What would change it</h2>
        <ul class="flex flex-wrap gap-10 m-0 p-0 list-none" aria-label="What would change it">
          <li v-for="one in worth.changes" :key="one.text">
            <ElButton v-if="one.edits?.length" @click="change(one)">{{ one.text }}</ElButton>
            <RouterLink v-else :to="`${base}/${one.station}`" class="change">{{ one.text }}</RouterLink>
          </li>
        </ul>
      </template>
    </template>
    <template v-else>
      <h1 class="answer">No verdict yet</h1>
      <p>{{ missing.text }} <RouterLink :to="`${base}/${missing.to}`" class="tap">Go there</RouterLink></p>
    </template>

    <section aria-label="How it lives">
      <h2>How it lives</h2>
      <LoadField />
    </section>

    <template v-if="worth">
      <h2>Days on a set, days on a charge</h2>
      <DaysBars :lasting="worth.lasting" />
    </template>
    <p class="flex flex-wrap gap-12 mt-18">
      <RouterLink :to="`${base}/proposals`" class="change">Look at the proposals</RouterLink>
      <RouterLink :to="`${base}/survey`" class="change">Go on with this build</RouterLink>
    </p>
  </div>
</template>

<style scoped>
.answer {
  margin: 2px 0 0;
  font-size: 26px;
  line-height: 1.2;
  text-wrap: balance;
}
.answer.do_it {
  color: var(--pass);
}
h2 {
  margin: 20px 0 6px;
}
.change {
  display: inline-flex;
  align-items: center;
  min-height: 34px;
  padding: 4px 13px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font-weight: 600;
  text-decoration: none;
}
.change:hover {
  border-color: var(--copper);
}
</style>
