<script setup lang="ts">
/** What could be built of all parts on offer: the few builds that nothing beats, and what ruled out the rest. */
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useLocalStorage } from '@vueuse/core'
import { useRouter } from 'vue-router'

import type { Build, Wishes } from '@/api/client'
import ProposalsChart from '@/pages/proposals/ProposalsChart.vue'
import { useAskedOf } from '@/composables/useAskedOf'
import { useHeldStill } from '@/composables/useHeldStill'
import { useNewest } from '@/composables/useNewest'
import { useProposals } from '@/pages/proposals/useProposals'
import { useWishes, wishesOf } from '@/pages/proposals/useWishes'
import { useTakenProposals } from '@/pages/proposals/useTakenProposals'
import RecommendedBuild from '@/pages/proposals/RecommendedBuild.vue'
import ProposalsTable from '@/pages/proposals/ProposalsTable.vue'
import RuledOut from '@/pages/proposals/RuledOut.vue'
import WishChips from '@/pages/proposals/WishChips.vue'
import PageFrame from '@/kit/PageFrame.vue'
import { counted } from '@/format'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const props = defineProps<{ id: number }>()
const conversion = useConversion()
const router = useRouter()
const { search, problem, start, stop } = useProposals()

const set = useWishes(props.id)
const wishes = ref<Wishes>(wishesOf(set.value))
const fine = ref<string[]>([])
const against = ref<'price' | 'room'>('price')
const table = useTemplateRef<HTMLElement>('table')
const { shown, isBehind } = useHeldStill(search, table)
const front = computed(() => shown.value?.front ?? [])
const best = computed(() => shown.value?.recommended ?? undefined)
const { chosen, picked, beaten, taken, choose, pick, forget } = useTakenProposals(
  front,
  computed(() => best.value?.place ?? 0),
)
/** The recommendation comes first; chart and list lie behind it, and stay open where somebody wants them. */
const openAll = useLocalStorage('pocket-spark-all-proposals', false)
/** Where nothing is found it opens by itself, to show what ruled everything out: that is nobody's wish. */
const kept = (open: boolean) => {
  if (front.value.length) openAll.value = open
}
function lookAt(place: number): void {
  openAll.value = true
  choose(place)
}

// Another window may change the bay, the load, the parts: what was found of the earlier ones is searched anew.
const { isOld, note } = useAskedOf(() => again())
/** Those that are builds already, whichever window took them. */
const planOf = (one: Build) => JSON.stringify({ ...one, id: '', name: '' })
const takenAs = computed(() => {
  const builds = new Map(conversion.document?.builds.map((one) => [planOf(one), one.name]))
  return front.value.map((one) => builds.get(planOf(one.plan)))
})

const again = (wished: Wishes = wishes.value) => {
  wishes.value = wished
  note()
  forget()
  void start({ ...wished, fine_cautions: wished.no_cautions ? fine.value : [] })
}

watch(
  () => props.id,
  async (id) => {
    if (conversion.stored?.id !== id && !(await conversion.open(id))) return void router.replace('/')
    document.title = t('Proposals · {name}', { name: conversion.document?.gadget.name ?? '' })
    again()
  },
  { immediate: true },
)

/** Until the front stands; what each wish costs is worked out after it. */
const searching = computed(() => search.value?.state === 'running' && !search.value.settled_all)
const opened = computed(() => search.value?.opens ?? [])
/** The wishes say themselves what they come to: here what opens most, and what is no wish. */
const told = computed(() => {
  const most = Math.max(0.01, ...opened.value.map((one) => one.more_h))
  return opened.value.filter((one) => one.more_h === most || !Object.keys(one.wishes).length)
})
const summary = computed(() => {
  const now = search.value
  if (!now && problem.value) return ''
  if (!now?.fell.length)
    return now && now.state !== 'running'
      ? t('Stopped before the first build was settled.')
      : t('Setting out every combination of what is on offer …')
  const builds = t('{count} of {count2} builds settled', {
    count: counted(now.settled),
    count2: counted(now.builds),
  })
  if (now.state === 'failed') return t('{builds}; the search broke off, and the log says why.', { builds })
  if (searching.value && !now.front_count)
    return t('{builds}; none of them can be recommended yet.', { builds })
  if (searching.value)
    return t('{builds}; nothing so far beats these {front_count}.', { builds, front_count: now.front_count })
  if (!now.settled_all)
    return t('{builds}, and stopped there; nothing so far beats these {front_count}.', {
      builds,
      front_count: now.front_count,
    })
  return t('{builds}; nothing beats these {front_count}.', { builds, front_count: now.front_count })
})
/** What the bay has to become for what is taken; another one may want it otherwise. */
const bayEdits = computed(() => taken.value.flatMap((one) => one.edits))
/** Known with the first look; kept while the next search has said nothing yet. */
const may = ref<string[]>([])
watch(search, (now) => {
  if (now?.may_be_wished.length) may.value = now.may_be_wished
})

const newest = useNewest()
function takeBest(place: number): Promise<void> {
  forget()
  choose(place)
  return take()
}
async function take(): Promise<void> {
  const builds = taken.value.map((one) => ({
    path: 'builds.+',
    value: { ...one.plan, id: '', name: (one.because || 'proposed').slice(0, 60) },
  }))
  if (!builds.length) return
  // Refused, and the page says why; or the maker has gone on to something else, and finds them there.
  if (!(await newest(conversion.applyEdits([...bayEdits.value, ...builds])))) return
  const count = conversion.document!.builds.length
  conversion.choose(count - 1)
  const place = builds.length > 1 ? 'compare' : 'fit'
  const query = builds.length > 1 ? { builds: builds.map((_, n) => count - 1 - n).join(',') } : {}
  await router.push({ path: `/conversion/${props.id}/${place}`, query })
}
</script>

<template>
  <PageFrame title="What could be built" :back="conversion.document?.gadget.name" :to="`/conversion/${id}`">
    <div class="flex items-start justify-between gap-10 min-h-28 narrow:min-h-66">
      <span role="status" class="quiet">{{ summary }}</span>
      <ElButton v-if="search?.state === 'running'" size="small" @click="stop">Stop here</ElButton>
      <ElButton v-else-if="search && !search.settled_all" size="small" @click="again()">Search on</ElButton>
    </div>
    <!-- Room for it is kept from the first: nothing below is to jump when it comes. -->
    <section aria-label="Recommendation" class="h-216 mt-10 overflow-auto narrow:h-360" tabindex="0">
      <RecommendedBuild
        v-if="best && front[best.place]"
        :one="front[best.place]!"
        :runner-up="best.runner_up === null ? undefined : front[best.runner_up]"
        :says="best"
        :mode="search?.mode ?? ''"
        :searching="searching"
        :taken-as="takenAs[best.place]"
        @take="takeBest(best.place)"
        @look="lookAt(best.runner_up ?? best.place)"
      />
    </section>
    <WishChips v-if="may.length || problem" v-model="set" :may="may" :opens="opened" @wished="again" />
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <p v-if="search?.fell.length && !front.length && search.settled_all" class="error-line">
      Nothing that is on offer is sound, goes in and is as wished: see what ruled it out.
    </p>
    <details
      v-if="search?.fell.length"
      :open="openAll || (!front.length && search.settled_all)"
      @toggle="kept(($event.currentTarget as HTMLDetailsElement).open)"
    >
      <summary class="font-semibold text-ink2">{{ t('All that nothing beats: chart and list') }}</summary>
      <div class="grid grid-cols-[minmax(0,1fr)_260px] mt-10 gap-28 narrow:grid-cols-1">
        <div>
          <div role="group" aria-label="Hours against" class="flex items-center gap-6 mb-4">
            <span class="quiet">Hours of use against</span>
            <button type="button" class="axis" :aria-pressed="against === 'price'" @click="against = 'price'">
              price
            </button>
            <button type="button" class="axis" :aria-pressed="against === 'room'" @click="against = 'room'">
              room to spare
            </button>
          </div>
          <div class="overflow-x-auto" tabindex="0" role="region" :aria-label="`Hours against ${against}`">
            <ProposalsChart :search="shown ?? search" :chosen="chosen" :against="against" @choose="choose" />
          </div>
          <div v-if="front.length || !search.settled_all" ref="table">
            <ProposalsTable
              :front="front"
              :mode="search.mode"
              :chosen="chosen"
              :picked="picked"
              :taken-as="takenAs"
              :class="{ late: isOld }"
              @choose="choose"
              @pick="pick"
            />
          </div>
          <ElButton type="primary" class="mt-8" :disabled="!front.length" @click="take">
            {{ taken.length > 1 ? `Take these ${taken.length} and compare` : 'Take it as a build' }}
          </ElButton>
          <span v-if="isBehind" class="ml-10 quiet" role="note"
            >Newer ones are shown once the pointer is off the list.</span
          >
          <span v-if="beaten" class="ml-10 quiet">{{
            beaten > 1
              ? `${beaten} that were ticked are beaten by now.`
              : 'One that was ticked is beaten by now.'
          }}</span>
          <p v-if="bayEdits.length" class="quiet small">
            The bay is changed with it: {{ [...new Set(taken.map((one) => one.otherwise))].join('; ') }}.
          </p>
          <div v-if="front[chosen]" class="mt-8 quiet small">
            <b>{{ front[chosen]!.because || 'One of many' }}:</b>
            {{ [front[chosen]!.cell, front[chosen]!.charger, ...front[chosen]!.others].join(' + ') }}
            <ul v-if="front[chosen]!.cautions.length" class="mt-4 mb-0">
              <li v-for="line in front[chosen]!.cautions" :key="line">{{ line }}</li>
            </ul>
          </div>
        </div>
        <aside aria-label="What ruled out the rest">
          <div v-if="told.length || search.state === 'running'" class="min-h-96">
            <h2>What one change would open</h2>
            <p v-for="one in told" :key="one.says" class="mx-0 mt-4 mb-12">
              {{ one.says }}: <b :class="{ 'text-copper': one.more_h > 0 }">{{ one.sentence }}</b>
            </p>
            <p v-if="!told.length" class="quiet small">Tried once every build is settled.</p>
          </div>
          <div v-if="search.left_out.length" class="mb-14">
            <h2>Yours that cannot be had</h2>
            <p v-for="line in search.left_out" :key="line" class="mx-0 mt-4 mb-6 small">{{ line }}</p>
          </div>
          <RuledOut :search="search" :fine="fine" @fine="((fine = $event), again())" />
        </aside>
      </div>
    </details>
  </PageFrame>
</template>

<style scoped>
.axis {
  padding: 0 2px 1px;
  border: 0;
  border-bottom: 2px solid transparent;
  background: none;
  color: var(--ink2);
  font: inherit;
  cursor: pointer;
}
.axis[aria-pressed='true'] {
  border-bottom-color: var(--copper);
  color: var(--ink);
  font-weight: 600;
}
</style>
