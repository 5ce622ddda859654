<script setup lang="ts">
/** What could be built of all parts on offer: the few builds that nothing beats, and what ruled out the rest. */
import { computed, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { Wishes } from '@/api/client'
import ProposalsChart from '@/charts/ProposalsChart.vue'
import BayThumb from '@/drawings/BayThumb.vue'
import { useMoney } from '@/composables/useMoney'
import { useProposals } from '@/composables/useProposals'
import PageFrame from '@/kit/PageFrame.vue'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ id: number }>()
const conversion = useConversion()
const money = useMoney()
const router = useRouter()
const { search, problem, start, stop } = useProposals()

const LIMITS = [
  { key: 'hours_at_least', says: 'at least', unit: 'h of use' },
  { key: 'full_within_h', says: 'full within', unit: 'h' },
  { key: 'price_at_most', says: 'for at most', unit: 'in all' },
] as const
const SWITCHES = [
  { key: 'type_c_only', says: 'Type-C only' },
  { key: 'no_regulator', says: 'no regulator' },
  { key: 'no_cautions', says: 'nothing to be careful of' },
  { key: 'own_parts_only', says: 'your parts alone' },
  { key: 'keep_cell', says: 'keep this cell' },
  { key: 'keep_charger', says: 'keep this charger' },
] as const
const limits = reactive<Record<(typeof LIMITS)[number]['key'], string>>({
  hours_at_least: '',
  full_within_h: '',
  price_at_most: '',
})
const switches = reactive<Record<(typeof SWITCHES)[number]['key'], boolean>>({
  type_c_only: false,
  no_regulator: false,
  no_cautions: false,
  own_parts_only: false,
  keep_cell: false,
  keep_charger: false,
})
const chosen = ref(0)

function wished(): Wishes {
  const numbers = Object.entries(limits).filter(([, text]) => text.trim() !== '')
  return { ...switches, ...Object.fromEntries(numbers) }
}
const again = () => {
  chosen.value = 0
  void start(wished())
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
const best = computed(() => Math.max(0.01, ...opened.value.map((one) => one.more_h)))
const summary = computed(() => {
  const now = search.value
  if (!now?.fell.length) return 'Setting out every combination of what is on offer …'
  const builds = `${now.settled.toLocaleString('en')} of ${now.builds.toLocaleString('en')} builds settled`
  if (now.state === 'failed') return `${builds}; the search broke off, and the log says why.`
  if (searching.value) return `${builds}; nothing so far beats these ${now.front_count}.`
  return `${builds}; nothing beats these ${now.front_count}.`
})
/** Nothing can be kept that the build does not have. */
const offered = computed(() => {
  const build = conversion.build
  const has: Record<string, boolean> = {
    keep_cell: !!build?.cell,
    keep_charger: !!build?.boards?.some((board) => board.charger),
  }
  return SWITCHES.filter(({ key }) => has[key] ?? true)
})
/** What turning this wish the other way round comes to, once it is worked out. */
const costOf = (key: string) => opened.value.find((one) => key in one.wishes)?.sentence
const most = computed(() => Math.max(1, ...(search.value?.fell ?? []).map((one) => one.count)))
const letter = (index: number) => (front.value[index]?.because ? String.fromCharCode(65 + index) : '')

async function take(): Promise<void> {
  const one = front.value[chosen.value]
  if (!one) return
  const name = (one.because || 'proposed').slice(0, 60)
  await conversion.applyEdits([{ path: 'builds.+', value: { ...one.plan, id: '', name } }])
  conversion.choose(conversion.document!.builds.length - 1)
  await router.push(`/conversion/${props.id}/fit`)
}
</script>

<template>
  <PageFrame title="What could be built" :back="conversion.document?.gadget.name" :to="`/conversion/${id}`">
    <p role="status" class="quiet">{{ summary }}</p>
    <form
      class="flex flex-wrap items-center gap-y-6 gap-x-10 mx-0 mt-8 mb-12"
      aria-label="Wishes"
      @submit.prevent="again"
    >
      <label v-for="limit in LIMITS" :key="limit.key">
        {{ limit.says }}
        <input
          v-model="limits[limit.key]"
          class="w-58 px-6 py-3 border border-line2 bg-paper text-ink text-body font-mono"
          type="text"
          inputmode="decimal"
          :aria-label="`${limit.says}, ${limit.unit}`"
          @change="again"
        />
        {{ limit.unit }}
      </label>
      <button
        v-for="wish in offered"
        :key="wish.key"
        type="button"
        :class="['wish', { on: switches[wish.key] }]"
        :aria-pressed="switches[wish.key]"
        @click="((switches[wish.key] = !switches[wish.key]), again())"
      >
        {{ wish.says }}
        <small v-if="costOf(wish.key)">{{ switches[wish.key] ? 'else ' : '' }}{{ costOf(wish.key) }}</small>
      </button>
      <ElButton v-if="search?.state === 'running'" size="small" @click="stop">Stop here</ElButton>
    </form>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <div v-if="search?.fell.length" class="grid grid-cols-[minmax(0,1fr)_260px] gap-28 narrow:grid-cols-1">
      <div>
        <div class="overflow-x-auto" tabindex="0" role="region" aria-label="Hours against price">
          <ProposalsChart :search="search" :chosen="chosen" @choose="chosen = $event" />
        </div>
        <p v-if="!front.length && !searching" class="error-line">
          Nothing that is on offer is sound, goes in and is as wished: see what ruled it out.
        </p>
        <div v-else class="scroll" tabindex="0" role="region" aria-label="Proposals">
          <table class="ruled">
            <thead>
              <tr>
                <th></th>
                <th>in the bay</th>
                <th>because</th>
                <th>cell</th>
                <th>boards</th>
                <th class="number">{{ search.mode }}</th>
                <th class="number">full in</th>
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
                    type="radio"
                    name="proposal"
                    :checked="index === chosen"
                    @change="chosen = index"
                  />
                  <b>{{ letter(index) }}</b>
                </td>
                <td><BayThumb :picture="one.picture" aria-hidden="true" /></td>
                <td>
                  <label :for="`pick${index}`">{{ one.because || 'one of many' }}</label>
                </td>
                <td>{{ one.cell }}</td>
                <td>{{ [one.charger, ...one.others].join(' + ') }}</td>
                <td class="number">{{ one.hours.text }}</td>
                <td class="number">{{ one.full_h.text }}</td>
                <td class="number">{{ one.spare_mm?.text ?? 'not known' }}</td>
                <td class="number">{{ one.cautions.length || 'none' }}</td>
                <td class="number">{{ money(one.price) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <ElButton type="primary" :disabled="!front.length" @click="take">Take it as a build</ElButton>
        <ul v-if="front[chosen]?.cautions.length" class="quiet small">
          <li v-for="line in front[chosen]!.cautions" :key="line">{{ line }}</li>
        </ul>
      </div>
      <aside aria-label="What ruled out the rest">
        <template v-if="opened.length">
          <h2>What one change would open</h2>
          <ul class="opens mx-0 mt-4 mb-18 p-0 list-none">
            <li
              v-for="one in opened"
              :key="one.says"
              class="mb-8 px-0 py-3 border-b border-line"
              :class="{ best: one.more_h > 0 && one.more_h === best }"
            >
              {{ one.says }}: <b>{{ one.sentence }}</b>
            </li>
          </ul>
        </template>
        <h2>What ruled out the rest</h2>
        <ol class="m-0 p-0 list-none">
          <li v-for="one in search.fell" :key="one.reason" class="mb-8">
            <b>{{ one.count.toLocaleString('en') }}</b> {{ one.reason }}
            <i
              class="block h-5 bg-copper opacity-60"
              :style="{ width: `${Math.max(1, (100 * one.count) / most)}%` }"
              aria-hidden="true"
            />
          </li>
        </ol>
      </aside>
    </div>
  </PageFrame>
</template>

<style scoped>
.wish {
  padding: 4px 12px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  cursor: pointer;
}
.wish.on {
  border-color: var(--copper);
  background: var(--copperwash);
  font-weight: 600;
}
td:first-child {
  white-space: nowrap;
}
input[type='radio'] {
  margin: 0 4px 0 0;
  accent-color: var(--copper);
  vertical-align: -1px;
}
.opens .best {
  color: var(--copper);
}
</style>
