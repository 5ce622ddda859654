<script setup lang="ts">
/** What could be built of all parts on offer: the few builds that nothing beats, and what ruled out the rest. */
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { Proposal, Wishes } from '@/api/client'
import ProposalsChart from '@/charts/ProposalsChart.vue'
import BayThumb from '@/drawings/BayThumb.vue'
import { useMoney } from '@/composables/useMoney'
import { useNewest } from '@/composables/useNewest'
import { useProposals } from '@/composables/useProposals'
import RuledOut from '@/components/RuledOut.vue'
import WishChips from '@/components/WishChips.vue'
import PageFrame from '@/kit/PageFrame.vue'
import { counted } from '@/format'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ id: number }>()
const conversion = useConversion()
const money = useMoney()
const router = useRouter()
const { search, problem, start, stop } = useProposals()

const wishes = ref<Wishes>({})
const chosen = ref(0)
const fine = ref<string[]>([])
const picked = ref<number[]>([])
const against = ref<'price' | 'room'>('price')

const again = (wished: Wishes = wishes.value) => {
  wishes.value = wished
  chosen.value = 0
  picked.value = []
  void start({ ...wished, fine_cautions: wished.no_cautions ? fine.value : [] })
}

watch(
  () => props.id,
  async (id) => {
    if (conversion.stored?.id !== id && !(await conversion.open(id))) return void router.replace('/')
    document.title = `Proposals · ${conversion.document?.gadget.name ?? ''}`
    again()
  },
  { immediate: true },
)

const front = computed(() => search.value?.front ?? [])
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
  if (!now?.fell.length)
    return now && now.state !== 'running'
      ? 'Stopped before the first build was settled.'
      : 'Setting out every combination of what is on offer …'
  const builds = `${counted(now.settled)} of ${counted(now.builds)} builds settled`
  if (now.state === 'failed') return `${builds}; the search broke off, and the log says why.`
  if (searching.value) return `${builds}; nothing so far beats these ${now.front_count}.`
  if (!now.settled_all) return `${builds}, and stopped there; nothing so far beats these ${now.front_count}.`
  return `${builds}; nothing beats these ${now.front_count}.`
})
const work = (one: Proposal) =>
  [`${one.joints} joints`, one.holes ? `${one.holes} ${one.holes === 1 ? 'hole' : 'holes'}` : 'no hole'].join(
    ', ',
  )
const letter = (index: number) => (front.value[index]?.because ? String.fromCharCode(65 + index) : '')

function pick(index: number): void {
  chosen.value = index
  const others = picked.value.filter((one) => one !== index)
  picked.value = others.length < picked.value.length ? others : [...picked.value, index]
}
const takes = computed(() => (picked.value.length ? picked.value : [chosen.value]))
/** What the bay has to become for what is taken; another one may want it otherwise. */
const bayEdits = computed(() => takes.value.flatMap((index) => front.value[index]?.edits ?? []))

const newest = useNewest()
async function take(): Promise<void> {
  const plans = takes.value.flatMap((index) => front.value[index] ?? [])
  const builds = plans.map((one) => ({
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
    <p class="quiet">
      <span role="status">{{ summary }}</span>
      <ElButton v-if="search?.state === 'running'" size="small" class="ml-10" @click="stop"
        >Stop here</ElButton
      >
      <ElButton v-else-if="search && !search.settled_all" size="small" class="ml-10" @click="again()"
        >Search on</ElButton
      >
    </p>
    <WishChips :may="search?.may_be_wished ?? []" :opens="opened" @wished="again" />
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <div v-if="search?.fell.length" class="grid grid-cols-[minmax(0,1fr)_260px] gap-28 narrow:grid-cols-1">
      <div>
        <div role="group" aria-label="Hours against" class="flex gap-6 mb-4">
          <span class="quiet">Hours of use against</span>
          <button type="button" class="axis" :aria-pressed="against === 'price'" @click="against = 'price'">
            price
          </button>
          <button type="button" class="axis" :aria-pressed="against === 'room'" @click="against = 'room'">
            room to spare
          </button>
        </div>
        <div class="overflow-x-auto" tabindex="0" role="region" :aria-label="`Hours against ${against}`">
          <ProposalsChart :search="search" :chosen="chosen" :against="against" @choose="chosen = $event" />
        </div>
        <p v-if="!front.length && search.settled_all" class="error-line">
          Nothing that is on offer is sound, goes in and is as wished: see what ruled it out.
        </p>
        <div v-else class="scroll" tabindex="0" role="region" aria-label="Proposals">
          <table class="ruled">
            <thead>
              <tr>
                <th></th>
                <th>in the bay</th>
                <th>because</th>
                <th>cell and boards</th>
                <th class="number">{{ search.mode }}</th>
                <th class="number">full in</th>
                <th class="number">work</th>
                <th class="number">off, lasts</th>
                <th class="number">to spare</th>
                <th class="number">cautions</th>
                <th class="number">price</th>
              </tr>
            </thead>
            <tbody>
              <tr
                v-for="(one, index) in front"
                :key="index"
                class="current:bg-copperwash"
                :class="{ 'is-current': index === chosen }"
              >
                <td>
                  <input
                    :id="`pick${index}`"
                    type="checkbox"
                    :checked="picked.includes(index)"
                    :aria-label="`Take number ${index + 1}`"
                    @change="pick(index)"
                  />
                  <b>{{ letter(index) }}</b>
                </td>
                <td><BayThumb :picture="one.picture" aria-hidden="true" /></td>
                <td>
                  <label :for="`pick${index}`">{{ one.because || 'one of many' }}</label>
                  <small v-if="one.otherwise" class="block quiet">{{ one.otherwise }}</small>
                </td>
                <td>
                  {{ one.cell }}
                  <small class="block quiet">{{ [one.charger, ...one.others].join(' + ') }}</small>
                </td>
                <td class="number">
                  {{ one.hours.text }}
                  <small v-if="one.light_half" class="block quiet">{{ one.light_half.text }} light</small>
                </td>
                <td class="number">{{ one.full_h.text }}</td>
                <td class="number">{{ work(one) }}</td>
                <td class="number">{{ one.off_days.text }}</td>
                <td class="number">{{ one.spare_mm?.text ?? 'not known' }}</td>
                <td class="number">{{ one.cautions.length || 'none' }}</td>
                <td class="number">{{ money(one.price) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <ElButton type="primary" :disabled="!front.length" @click="take">
          {{ takes.length > 1 ? `Take these ${takes.length} and compare` : 'Take it as a build' }}
        </ElButton>
        <p v-if="bayEdits.length" class="quiet small">
          The bay is changed with it:
          {{ [...new Set(takes.map((index) => front[index]?.otherwise))].join('; ') }}.
        </p>
        <ul v-if="front[chosen]?.cautions.length" class="quiet small">
          <li v-for="line in front[chosen]!.cautions" :key="line">{{ line }}</li>
        </ul>
      </div>
      <aside aria-label="What ruled out the rest">
        <template v-if="told.length">
          <h2>What one change would open</h2>
          <p v-for="one in told" :key="one.says" class="mx-0 mt-4 mb-12">
            {{ one.says }}: <b :class="{ best: one.more_h > 0 }">{{ one.sentence }}</b>
          </p>
        </template>
        <RuledOut :search="search" :fine="fine" @fine="((fine = $event), again())" />
      </aside>
    </div>
  </PageFrame>
</template>

<style scoped>
td:first-child {
  white-space: nowrap;
}
input[type='checkbox'] {
  margin: 0 4px 0 0;
  accent-color: var(--copper);
  vertical-align: -1px;
}
.best {
  color: var(--copper);
}
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
