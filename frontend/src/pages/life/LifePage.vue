<script setup lang="ts">
/** A life, not a day: how long a charge serves over the years, what becomes of it unused, what makes it longer. */
import { useWindowSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { api, sentenceOf, type Lever, type ServiceLife } from '@/api/client'
import LifeChart from '@/pages/life/LifeChart.vue'
import CellTests from '@/pages/life/CellTests.vue'
import MonthsUsed from '@/pages/life/MonthsUsed.vue'
import { useNewest } from '@/composables/useNewest'
import { dayOfMonth } from '@/format'
import ChoiceField from '@/kit/ChoiceField.vue'
import LevelMark from '@/kit/LevelMark.vue'
import PageFrame from '@/kit/PageFrame.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const props = defineProps<{ id: number; build: number }>()
const conversion = useConversion()
const reference = useReference()
const router = useRouter()
const { width } = useWindowSize()

const pulled = ref<Lever['key'][]>([])
const life = ref<ServiceLife>()
const problem = ref('')
const late = ref(false)
const newest = useNewest()

watch(
  [pulled, () => conversion.assessment],
  async () => {
    if (!conversion.assessment) return
    late.value = !!life.value
    const body = { ...conversion.question(), pulled: pulled.value }
    const heard = await newest(api.POST('/api/questions/life', { body }))
    if (!heard) return
    life.value = heard.data
    problem.value = heard.error ? sentenceOf(heard.error) : ''
    late.value = false
  },
  { immediate: true },
)

watch(
  () => props.id,
  async (id) => {
    if (conversion.stored?.id !== id && !(await conversion.open(id))) return void router.replace('/')
    conversion.choose(props.build)
    document.title = t('Years · {name}', { name: conversion.document?.gadget.name ?? '' })
  },
  { immediate: true },
)

const TITLES = {
  recharge: t('Charge it by'),
  stops: t('It stops'),
  opens: t('Protection opens'),
  lost: t('Cell lost'),
}
const DAY_MS = 86_400_000
const record = computed(() => conversion.build?.record)
const isDone = computed(() => !!record.value?.first_charge?.ended_at && !conversion.build?.practice)
const lastFull = computed(() => {
  const known = [record.value?.charged_at, record.value?.first_charge?.ended_at].filter((one) => !!one)
  return known.length && isDone.value ? Math.max(...known.map((one) => Date.parse(String(one)))) : undefined
})
const charged = computed(() => lastFull.value && `${dayOfMonth(lastFull.value)}`)
const chargedToday = () =>
  conversion.edit(
    `${conversion.buildPath}.record.charged_at`,
    new Date().toISOString().replace(/:\d\d\.\d+Z$/, 'Z'),
  )
/** Counted from the last full charge, or from one today. */
const unused = computed(() =>
  (life.value?.unused ?? []).map((one) => {
    const at = (lastFull.value ?? Date.now()) + one.days.value * DAY_MS
    return { ...one, title: TITLES[one.kind], on: `${dayOfMonth(at)} ${new Date(at).getFullYear()}` }
  }),
)
const levers = computed(() => life.value?.levers ?? [])
const taken = computed(() => levers.value.filter((one) => one.pulled).flatMap((one) => one.edits))

function pull(key: Lever['key']): void {
  const others = pulled.value.filter((one) => one !== key)
  pulled.value = others.length < pulled.value.length ? others : [...pulled.value, key]
}

async function take(): Promise<void> {
  await conversion.applyEdits(taken.value)
  pulled.value = []
}
</script>

<template>
  <PageFrame
    :title="life?.headline ?? 'Its years'"
    :back="conversion.document?.gadget.name"
    :to="`/conversion/${id}/verdict`"
  >
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <p v-if="conversion.assessment?.worst === 'stop'" class="m-0 mt-4">
      <LevelMark level="stop" :size="14" /> Something stops this build. These are its years once that is
      solved.
    </p>
    <div v-if="life && reference.tables" class="life" :class="{ late }">
      <section aria-label="Days on a charge over the years">
        <p class="quiet mt-2 mb-6 text-pretty">{{ life.explained }}</p>
        <LifeChart :life="life" :height="width < 700 ? 240 : 300" />
        <p class="m-0 text-small text-pretty">
          <b v-if="life.fails">{{ life.fails.says }}.</b>
          <template v-if="life.may_fail"> {{ life.may_fail.says }}, if it is one of the weakest.</template>
          The band holds nine of ten cells of its kind.
          <span v-for="remark in life.remarks" :key="remark">{{ ` ${remark}` }}</span>
        </p>
        <p v-if="life.seasons.length" class="m-0 mt-6">
          <span v-for="season in life.seasons" :key="season.name" class="mr-18">
            <b>{{ season.days.text }}</b> on a charge in {{ season.name }}, at {{ season.celsius.text }}
          </span>
        </p>

        <h2>What would change it</h2>
        <ul class="m-0 p-0 list-none" aria-label="What would change it">
          <li v-for="lever in levers" :key="lever.key" class="lever">
            <ElCheckbox :model-value="lever.pulled" @update:model-value="pull(lever.key)">{{
              lever.label
            }}</ElCheckbox>
            <b>{{ lever.gain }}</b>
            <span class="quiet">{{ lever.costs }}</span>
          </li>
        </ul>
        <p v-if="taken.length" class="mt-10">
          <ElButton type="primary" @click="take">Put this into the plan</ElButton>
          <span class="ml-10 quiet">Until then only this page counts it.</span>
        </p>
      </section>

      <aside>
        <h2>{{ charged ? `Unused since ${charged}` : 'Unused, after a full charge today' }}</h2>
        <dl class="m-0">
          <template v-for="one in unused" :key="one.kind">
            <dt>
              <b>{{ one.title }}</b> <span class="whitespace-nowrap">{{ one.on }}</span>
            </dt>
            <dd>{{ one.text }}</dd>
          </template>
        </dl>
        <p v-if="isDone" class="m-0">
          <button type="button" class="bare link-button" @click="chargedToday">
            It was charged full today
          </button>
        </p>
        <p v-for="one in life.saves" :key="one" class="m-0 mt-4 text-small">{{ one }}</p>

        <h2>Where it lives</h2>
        <p class="m-0 mb-6 text-small">{{ life.where }}</p>
        <ChoiceField
          path="gadget.shell.climate"
          label="Climate"
          :choices="reference.tables.climates"
          empty="the same all year"
        />
        <MonthsUsed class="mt-8" />
        <h2>How it is used</h2>
        <ChoiceField
          :path="`${conversion.buildPath}.plugged_in`"
          label="On its charger"
          :choices="reference.tables.plugged_in"
        />
        <QuantityField
          class="mt-6"
          path="gadget.wanted_days"
          unit="days"
          label="A charge is to last"
          placeholder="half"
          no-basis
        />
        <CellTests />
      </aside>
    </div>
  </PageFrame>
</template>

<style scoped>
.life {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 32px;
}
.late {
  opacity: 0.6;
}
aside {
  padding-left: 20px;
  border-left: 1px solid var(--line);
}
aside h2:first-child {
  margin-top: 0;
}
h2 {
  margin: 18px 0 6px;
}
dt {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
dd {
  margin: 0 0 8px;
  color: var(--ink2);
  font-size: 13px;
  text-wrap: pretty;
}
.lever {
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr) minmax(0, 1fr);
  align-items: center;
  gap: 2px 12px;
  min-height: 38px;
  border-bottom: 1px solid var(--line);
}
.lever :deep(.el-checkbox__label) {
  white-space: normal;
}
aside :deep(.choice) {
  grid-template-columns: minmax(0, 1fr) 180px;
}
@media (max-width: 860px) {
  .life {
    grid-template-columns: minmax(0, 1fr);
    gap: 10px;
  }
  aside {
    padding: 0;
    border: 0;
  }
  .lever {
    grid-template-columns: minmax(0, 1fr) auto;
    padding: 6px 0;
  }
  .lever > :last-child {
    grid-column: 1 / -1;
    padding-left: 24px;
  }
}
</style>
