<script setup lang="ts">
/** Power: what the gadget sees as the cell empties, what regulates it, and what protects the cell. */
import { computed, onMounted } from 'vue'

import { api, type RegulatorOption, type Scenarios, type StartUp } from '@/api/client'
import FirstMoment from '@/stations/power/FirstMoment.vue'
import GadgetVoltsChart from '@/stations/power/GadgetVoltsChart.vue'
import LightStrip from '@/stations/power/LightStrip.vue'
import LoudStrip from '@/stations/power/LoudStrip.vue'
import InTurn from '@/kit/InTurn.vue'
import LevelMark from '@/kit/LevelMark.vue'
import PickCard from '@/kit/PickCard.vue'
import CheckField from '@/kit/CheckField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import PartPicker from '@/components/PartPicker.vue'
import SharedPack from '@/stations/power/SharedPack.vue'
import RegulatorTable from '@/stations/power/RegulatorTable.vue'
import PaybackPanel from '@/stations/power/PaybackPanel.vue'
import { useMoney } from '@/composables/useMoney'
import { useBoards } from '@/composables/useBoards'
import { useQuestion } from '@/composables/useQuestion'
import { useUnits } from '@/composables/useUnits'
import { useConversion } from '@/stores/conversion'
import { useInventory } from '@/stores/inventory'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const conversion = useConversion()
const { celsiusText } = useUnits()
const reference = useReference()
const inventory = useInventory()
onMounted(() => inventory.load())
const { boards, boardAt, put } = useBoards()

const run = computed(() => conversion.assessment?.run)
const survey = computed(() => conversion.assessment?.survey)
const seen = computed(() => conversion.assessment?.gadget_v)

const summary = computed(() => {
  if (!conversion.build?.cell)
    return t('Choose a cell first; then its voltage is held against the gadget here.')
  if (!run.value?.modes.length)
    return t('Give the gadget a mode with a current at Survey, and its run is drawn here.')
  const { days, served_days: served } = run.value
  const dark = days && served && served.value < 0.9 * days.value
  const lasts = dark
    ? t('{served} as used in which it does its job, {days} until it is empty, ', {
        served: served.text,
        days: days.text,
      })
    : days
      ? t('{days} as used, ', { days: days.text })
      : ''
  return t('{max} at most, {min} at the end; {lasts}{standby_days} switched off.', {
    max: seen.value!.max.text,
    min: seen.value!.min.text,
    lasts,
    standby_days: run.value.standby_days.text,
  })
})

const WHO: Record<string, string> = {
  gadget: t('the gadget gives up'),
  protection: t('the protection opens'),
  cell: t('the cell is empty'),
}

const options = useQuestion<RegulatorOption[]>(async (body) =>
  conversion.build?.cell ? await api.POST('/api/questions/regulators', { body }) : undefined,
)
const regulatorName = computed(
  () =>
    boards.value.find((board) => board.regulator)?.name ??
    conversion.build?.regulator?.name ??
    'none: straight from the cell',
)
const { late: regulatorsLate } = options
const ways = computed(() => (options.value ?? []).filter((option) => option.makes_sense))
const money = useMoney()
const start = useQuestion<StartUp | null>(async (body) =>
  conversion.build?.cell
    ? await api.POST('/api/questions/start-up', { body: { ...body, mode: '' } })
    : undefined,
)
const scenarios = useQuestion<Scenarios>(async (body) => await api.POST('/api/questions/scenarios', { body }))
const { late: scenariosLate } = scenarios
const drains = computed(() =>
  Object.entries(run.value?.drains ?? {})
    .filter(([, taken]) => taken.value > 0)
    .sort(([, a], [, b]) => b.value - a.value),
)
const builtIn = computed(() => {
  const named = boards.value
    .filter((board) => board.charger && board.protection)
    .map(() => t('on the charger board'))
  return conversion.build?.cell?.own_protection ? [...named, t('on the cell')] : named
})

function pickRegulator(name: string): void {
  const parts = [...reference.parts, ...inventory.asParts()]
  const part = parts.find((part) => part.board?.regulator && part.board.name === name)
  // A charger with a step-up on the same board takes the charger's place, and its own regulator goes with it.
  if (part?.board?.charger) put('regulator', undefined)
  put(part?.board?.charger ? 'charger' : 'regulator', part)
}
</script>

<template>
  <div>
    <h1>What the gadget sees</h1>
    <p class="quiet">{{ summary }}</p>

    <template v-if="run?.modes.length && survey">
      <h2>Volts at the gadget, from full to empty; green is where it works</h2>
      <GadgetVoltsChart :run="run" :window="survey.window" />
      <LightStrip :run="run" />
      <LoudStrip :run="run" />
      <div class="scroll" tabindex="0" role="region" aria-label="Mode by mode">
        <table class="ruled mb-8">
          <thead>
            <tr>
              <th>mode</th>
              <th class="number">hours of use</th>
              <th class="number">old set</th>
              <th class="number">used</th>
              <th class="number">ends at</th>
              <th>because</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(mode, index) in run.modes" :key="mode.name">
              <td><i :class="['swatch', `line-${index % 4}`]" />{{ mode.name }}</td>
              <td class="number">
                <b>{{ mode.hours.text }}</b>
                <small v-if="mode.service_hours" class="block text-ink2"
                  >{{ mode.service_hours.text }} in which it does its job</small
                >
                <small v-if="mode.hours_least.text !== mode.hours.text" class="block text-ink2"
                  >{{ mode.hours_least.text }} at least</small
                >
              </td>
              <td class="number">{{ mode.original_hours.text }}</td>
              <td class="number">{{ mode.used.text }}</td>
              <td class="number">{{ mode.gadget_v_end.text }}</td>
              <td>{{ WHO[mode.stopped_by] }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </template>

    <SharedPack />

    <section v-if="start" aria-label="Switched on">
      <h2 class="flex items-baseline gap-8">
        <LevelMark :level="start.level" /> Switched on: the first tenth of a second
      </h2>
      <p class="m-0 mb-6 text-pretty">
        {{ start.headline }} {{ start.help }} <span class="quiet">{{ start.assumed }}</span>
      </p>
      <FirstMoment :start="start" />
    </section>

    <InTurn>
      <template v-if="options && survey">
        <h2>{{ ways.length > 1 ? 'Ways that make sense' : 'What makes sense' }}</h2>
        <ol
          v-if="ways.length"
          class="grid grid-cols-3 gap-12 mx-0 my-8 p-0 list-none narrow:grid-cols-1"
          :class="{ late: regulatorsLate }"
          aria-label="Ways that make sense"
        >
          <li v-for="way in ways" :key="way.name">
            <PickCard
              :head="(way.served_days ?? way.service_hours ?? way.days ?? way.run_hours)?.text ?? ''"
              :chosen="way.name === regulatorName"
              @pick="pickRegulator(way.name)"
            >
              <template #picture><LevelMark :level="way.level" /></template>
              {{ way.called }}
              <small class="block text-ink2"
                >{{ way.reason }}<template v-if="way.price">&ensp;{{ money(way.price) }}</template></small
              >
            </PickCard>
          </li>
        </ol>
        <p v-else class="quiet my-8">
          Nothing here serves this gadget from one cell: the table says why of each.
        </p>
        <h2>All regulators, best first</h2>
        <div :class="{ late: regulatorsLate }">
          <RegulatorTable
            :options="options"
            :window="survey.window"
            :chosen="regulatorName"
            @pick="pickRegulator"
          />
        </div>
      </template>
      <!-- Not before the regulators are there, which would push them down. -->
      <template v-if="options !== undefined || conversion.stale"
        ><InTurn>
          <div class="pair grid grid-cols-2 gap-y-0 gap-x-32 narrow:grid-cols-1">
            <section aria-label="Protection at work" class="summary">
              <h2>Who protects, who ends the run</h2>
              <template v-if="run?.protection">
                <p>
                  Trips between <b>{{ run.protection.trip_least_a.text }}</b> (empty cell) and
                  <b>{{ run.protection.trip_most_a.text }}</b> (full); the peak is
                  {{ run.protection.peak_a.text }}.
                </p>
                <p>
                  Cuts at <b>{{ run.protection.cut_v.text }}</b>{{
                    run.protection.ends_the_run
                      ? `; the run ends because ${WHO[run.protection.ends_the_run]}`
                      : ''
                  }}. Draws {{ run.protection.drain_a.text }}.
                </p>
              </template>
              <p v-else class="quiet">
                None yet: choose a protection below, a protected charger board, or a protected cell.
              </p>
              <h2>Switched off, lasts</h2>
              <template v-if="run">
                <p>
                  <b>{{ run.standby_days.text }}</b>; {{ run.standby_a.text }} flow in all.
                </p>
                <ul class="mx-0 mt-0 mb-8 p-0 list-none text-small">
                  <li v-for="[who, taken] in drains" :key="who">
                    <span
                      class="inline-block h-8 min-w-2 mr-8 bg-lithium"
                      :style="{ width: `${(taken.value / run.standby_a.value) * 96}px` }"
                    />{{ taken.text }}
                    {{ who }}
                  </li>
                </ul>
              </template>
              <ChoiceField
                :path="`${conversion.buildPath}.switch_place`"
                label="Main switch stands"
                :choices="reference.tables!.switch_places"
              />
            </section>
            <section aria-label="Old and cold" class="summary">
              <h2>Later, and in winter</h2>
              <table v-if="scenarios?.conditions?.length" class="ruled" :class="{ late: scenariosLate }">
                <tbody>
                  <tr v-for="condition in scenarios.conditions" :key="condition.name">
                    <td>{{ condition.name }}</td>
                    <td class="number">
                      <b>{{ condition.hours ? condition.hours.text : 'never' }}</b>
                    </td>
                    <td class="number">{{ condition.days ? condition.days.text : '' }}</td>
                  </tr>
                </tbody>
              </table>
              <CheckField :path="`${conversion.buildPath}.aged`" label="judge all of it after 300 cycles" />
              <CheckField
                :path="`${conversion.buildPath}.cold`"
                :label="`judge all of it at ${celsiusText(0)}`"
              />
              <PaybackPanel v-if="conversion.assessment?.payback" :payback="conversion.assessment.payback" />
            </section>
          </div>
        </InTurn>
        <InTurn>
          <PartPicker
            title="Protection"
            :none="builtIn.length ? `no extra board: ${builtIn.join(', ')}` : 'no protection board'"
            :parts="[...inventory.asParts('protection'), ...reference.boards('protection')]"
            :chosen="boardAt('protection')?.name ?? ''"
            @pick="put('protection', $event)"
          />
        </InTurn>
      </template>
    </InTurn>
  </div>
</template>

<style scoped>
h2 {
  margin: 14px 0 4px;
}
.swatch {
  display: inline-block;
  width: 22px;
  margin-right: 8px;
  vertical-align: middle;
  border-top: 2px dashed var(--note);
}
.line-0 {
  border-top: 2px solid var(--copper);
}
.line-2 {
  border-color: var(--ink);
}
.line-3 {
  border-color: var(--pass);
}
.summary p {
  margin: 2px 0 6px;
}
.summary :deep(.choice) {
  grid-template-columns: minmax(0, 1fr) 178px;
}
</style>
