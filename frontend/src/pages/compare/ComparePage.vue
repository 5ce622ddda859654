<script setup lang="ts">
/** Builds of one conversion side by side: their figures, what is said of one and not the other, and their runs. */
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, sentenceOf, type Comparison, type WindowSummary } from '@/api/client'
import { useNewest } from '@/composables/useNewest'
import RunsChart from '@/pages/compare/RunsChart.vue'
import LevelMark from '@/kit/LevelMark.vue'
import BayThumb from '@/drawings/BayThumb.vue'
import PageFrame from '@/kit/PageFrame.vue'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const props = defineProps<{ id: number }>()
const conversion = useConversion()
const router = useRouter()
const route = useRoute()

const chosen = ref<number[]>([])
const seen = ref<Comparison>()
const problem = ref('')
const MOST = 6

const builds = computed(() => conversion.document?.builds ?? [])
const window = computed<WindowSummary | undefined>(() => conversion.assessment?.survey.window)

const newest = useNewest()
// Of what is picked now, and anew when another window has changed one of them.
watch([chosen, () => conversion.stored?.revision], async ([picked]) => {
  if (picked.length < 2) {
    newest.drop()
    seen.value = undefined
    return
  }
  const body = { ...conversion.question(), builds: [...picked].sort().map(String) }
  const heard = await newest(api.POST('/api/questions/compare', { body }))
  if (!heard) return
  const { data, error } = heard
  seen.value = data
  problem.value = error ? sentenceOf(error) : ''
})

watch(
  () => props.id,
  async (id) => {
    if (conversion.stored?.id !== id && !(await conversion.open(id))) await router.replace('/')
    document.title = t('Compare · {name}', { name: conversion.document?.gadget.name ?? '' })
    const asked = String(route.query.builds ?? '')
    const meant = asked ? asked.split(',').map(Number).sort() : builds.value.map((_, index) => index)
    chosen.value = meant.filter((index) => builds.value[index]).slice(0, MOST)
  },
  { immediate: true },
)

function toggle(index: number): void {
  const others = chosen.value.filter((one) => one !== index)
  chosen.value = others.length < chosen.value.length ? others : [...chosen.value, index].sort().slice(0, MOST)
}

async function choose(index: number): Promise<void> {
  conversion.choose(index)
  await router.push(`/conversion/${props.id}/charge`)
}
</script>

<template>
  <PageFrame title="Builds side by side" :back="conversion.document?.gadget.name" :to="`/conversion/${id}`">
    <div class="flex flex-wrap gap-y-4 gap-x-20 mx-0 mt-8 mb-10" role="group" aria-label="Builds to compare">
      <ElCheckbox
        v-for="(build, index) in builds"
        :key="index"
        :model-value="chosen.includes(index)"
        @update:model-value="toggle(index)"
        >{{ build.name }}</ElCheckbox
      >
    </div>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <p v-if="builds.length < 2" class="quiet">
      There is one build so far. “+ build” in the header makes a copy to vary.
    </p>
    <p v-else-if="!seen" class="quiet">Tick two or more.</p>
    <template v-else>
      <div class="scroll" tabindex="0" role="region" aria-label="Builds side by side">
        <table class="ruled">
          <thead>
            <tr>
              <th></th>
              <th v-for="side in seen.sides" :key="side.build">
                <LevelMark :level="side.worst" :size="12" /> {{ side.name }}
              </th>
            </tr>
          </thead>
          <tbody>
            <template v-for="(row, place) in seen.rows" :key="row.label">
              <tr v-if="row.group !== seen.rows[place - 1]?.group">
                <th scope="rowgroup" class="group" :colspan="seen.sides.length + 1">{{ row.group }}</th>
              </tr>
              <tr v-if="row.group === 'Fit' && seen.rows[place - 1]?.group !== 'Fit'">
                <td class="label quiet">from above</td>
                <td v-for="side in seen.sides" :key="side.build"><BayThumb :picture="side.picture" /></td>
              </tr>
              <tr :class="{ same: row.same }">
                <td class="label quiet">
                  <span v-if="!row.same" class="differs" aria-label="differs">≠</span>{{ row.label }}
                </td>
                <td
                  v-for="(text, index) in row.texts"
                  :key="index"
                  :class="{ best: row.best?.includes(index) }"
                >
                  {{ text }}
                </td>
              </tr>
            </template>
            <tr>
              <td></td>
              <td v-for="side in seen.sides" :key="side.build">
                <ElButton size="small" @click="choose(side.build)">Go on with this one</ElButton>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <h2 class="mx-0 mt-20 mb-4">Volts at the gadget over hours</h2>
      <RunsChart :sides="seen.sides" :window="window" />
      <h2 class="mx-0 mt-20 mb-4">What is said of one and not of the other</h2>
      <div class="scroll" tabindex="0" role="region" aria-label="Said of one and not of the other">
        <table class="ruled">
          <tbody>
            <tr v-for="difference in seen.differences" :key="difference.code">
              <td v-for="(level, index) in difference.levels" :key="index" class="min-w-220 align-top">
                <template v-if="level"
                  ><LevelMark :level="level" :size="12" /> {{ difference.headlines[index] }}</template
                >
                <span v-else class="quiet">–</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="!seen.differences.length" class="quiet">Nothing: the same is said of all.</p>
    </template>
  </PageFrame>
</template>

<style scoped>
.group {
  padding-top: 16px;
  text-align: left;
}
.same td {
  color: var(--ink2);
}
.label {
  position: relative;
  min-width: 112px;
  padding-left: 18px;
}
.differs {
  position: absolute;
  left: 0;
  color: var(--copper);
  font-weight: 700;
}
.best {
  font-weight: 700;
  color: var(--pass);
}
</style>
