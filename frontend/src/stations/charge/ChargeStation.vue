<script setup lang="ts">
/** Charge: which board, which resistor, how long. */
import { computed, onMounted } from 'vue'

import { api, type Part } from '@/api/client'
import ChargeRun from '@/stations/charge/ChargeRun.vue'
import GivenCharge from '@/stations/charge/GivenCharge.vue'
import InTurn from '@/kit/InTurn.vue'
import CheckField from '@/kit/CheckField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import LevelMark from '@/kit/LevelMark.vue'
import OneOf from '@/kit/OneOf.vue'
import PartPicker from '@/components/PartPicker.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { useBoards } from '@/composables/useBoards'
import { useQuestion } from '@/composables/useQuestion'
import ChargeCurrentChart from '@/stations/charge/ChargeCurrentChart.vue'
import ResistorDrawing from '@/stations/charge/ResistorDrawing.vue'
import { plain } from '@/format'
import { useConversion } from '@/stores/conversion'
import { useInventory } from '@/stores/inventory'
import { useReference } from '@/stores/reference'
import { t } from '@/words'
import { COLOURS, ORIGINS } from '@/stations/charge/resistorWords'

const conversion = useConversion()
const reference = useReference()
const inventory = useInventory()
onMounted(() => inventory.load())
const { boardAt, put } = useBoards()

const path = computed(() => conversion.buildPath)
const charge = computed(() => conversion.assessment?.charge)
const charging = computed(() => conversion.assessment?.charging)
const who = computed(() =>
  reference.tables!.who_charges.find((choice) => choice.value === conversion.build?.who_charges),
)
const ours = computed(
  () => conversion.build?.who_charges !== 'gadget' && conversion.build?.who_charges !== 'external',
)
const board = computed(() => boardAt('charger'))

const chargers = computed<Part[]>(() => [...inventory.asParts('charger'), ...reference.boards('charger')])

const summary = computed(() => {
  if (!ours.value) return `${who.value?.label}: ${who.value?.detail}.`
  if (!board.value) return t('Choose the board that fills the cell; its resistor sets the current.')
  if (!charge.value) return t('Choose a cell first: the current follows from what it holds.')
  const policy = reference.tables!.policies.find((choice) => choice.value === conversion.build!.policy)
  return t('{label}: {detail}. Fit a value whose whole band stays under every line.', {
    label: policy?.label,
    detail: policy?.detail,
  })
})

const asks = computed(
  () => reference.tables!.inputs.find((kind) => kind.value === conversion.build?.input.kind)?.asks ?? [],
)
const own = useQuestion(async (body) => await api.POST('/api/questions/resistors', { body }))
const scenarios = useQuestion(async (body) => await api.POST('/api/questions/scenarios', { body }))
const { late } = scenarios

function fit(ohm: number): void {
  void conversion.applyEdits([
    { path: `${path.value}.r_prog_ohm`, value: ohm },
    { path: `${path.value}.record.r_measured_ohm`, value: null },
  ])
}

function chooseSource(kind: string | null): void {
  // The usual limit of the kind is the core's to fill in.
  void conversion.put(`${path.value}.source`, { kind })
}
</script>

<template>
  <div>
    <h1>{{ ours ? 'Which resistor, how long' : 'How long, how warm' }}</h1>
    <p class="quiet">{{ summary }}</p>
    <div class="mt-8 mb-4 max-w-460">
      <ChoiceField
        :path="`${path}.who_charges`"
        label="Charged by"
        :choices="reference.tables!.who_charges"
      />
    </div>
    <GivenCharge v-if="!ours" :charging="charging" />

    <template v-if="charge">
      <h2>Charge current, by the charge-current resistor at the PROG pin</h2>
      <ChargeCurrentChart :charge="charge" @fit="fit" />
      <div class="pair grid grid-cols-[minmax(0,5fr)_minmax(0,7fr)] gap-y-4 gap-x-28 narrow:grid-cols-1">
        <InTurn>
          <section class="fit flex flex-col items-start gap-6" aria-label="Resistor">
            <h2>
              {{
                charge.r_origin === 'suggested'
                  ? 'Fit this one'
                  : `This one, ${ORIGINS[charge.r_origin] ?? charge.r_origin}`
              }}
            </h2>
            <ResistorDrawing
              :bands="charge.fitted.bands"
              :paints="charge.fitted.paints"
              :chip-code="charge.fitted.chip_code_4"
            />
            <p>
              <b class="mr-4 text-head">{{ charge.fitted.text }}</b>
              {{ charge.current_a.text }}, between {{ charge.current_least_a.text }} and
              {{ charge.current_most_a.text }}
            </p>
            <p class="quiet small">
              {{ charge.fitted.bands.map((band) => COLOURS[band] ?? band).join(' ') }}; chip
              {{ charge.fitted.chip_code }}, {{ charge.fitted.chip_code_4
              }}{{ charge.fitted.eia96 ? `, ${charge.fitted.eia96}` : '' }}; on paper {{ charge.fitted.rkm }}
            </p>
            <div class="flex flex-col gap-7 w-full">
              <QuantityField
                :path="`${path}.r_prog_ohm`"
                unit="kΩ"
                label="Fitted"
                :placeholder="plain(charge.r_prog_ohm.value / 1000)"
                no-basis
              />
              <QuantityField
                :path="`${path}.record.r_measured_ohm`"
                unit="kΩ"
                label="Measured on the board"
                placeholder="not yet"
                empty="default"
              />
            </div>
            <p class="quiet small">
              Read it unpowered between the PROG pin and ground, with no cell and no USB connected: either of
              them spoils the reading. Its own heat is nothing.
            </p>
            <ul v-if="own?.length" class="m-0 p-0 list-none" aria-label="From your parts">
              <li v-for="choice in own" :key="choice.how">
                <button
                  type="button"
                  class="bare text-copper hover:underline"
                  @click="fit(choice.r_ohm.value)"
                >
                  from your parts: {{ choice.text }}
                </button>
              </li>
            </ul>
            <ElButton
              v-if="charge.suggested.r_ohm !== charge.fitted.r_ohm"
              type="primary"
              plain
              @click="fit(charge.suggested.r_ohm.value)"
              >Fit {{ charge.suggested.text }}, under every line</ElButton
            >
          </section>
        </InTurn>
        <InTurn>
          <ChargeRun v-if="charging" :charging="charging">
            {{ charge.cc_share.text }} of the time at constant current. Ends at
            {{ charge.termination_a.text }}. {{ charge.at_board_v.text }} at the board. At first the chip
            turns {{ charge.heat_w.text }} into heat<template v-if="charge.junction_c_most"
              >; it gets to {{ charge.junction_c_most.text }} at most</template
            >.
          </ChargeRun>
        </InTurn>
      </div>
    </template>

    <section v-if="scenarios?.uses?.length" aria-label="Used while it charges">
      <h2>Used while it charges: five ways</h2>
      <div class="overflow-x-auto">
        <table class="ruled uses" :class="{ late }">
          <thead>
            <tr>
              <th></th>
              <th>way</th>
              <th class="number">full in</th>
              <th class="number">into the cell</th>
              <th class="number">gadget sees</th>
              <th class="narrow:hidden">what comes of it</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="use in scenarios.uses"
              :key="use.use"
              class="cursor-pointer hover:bg-sunk current:bg-copperwash"
              :class="{ 'is-current': use.use === conversion.build?.use_while_charging }"
              @click="conversion.edit(`${path}.use_while_charging`, use.use)"
            >
              <td><LevelMark :level="use.level" :size="12" /></td>
              <td>
                <button
                  type="button"
                  class="bare"
                  :aria-pressed="use.use === conversion.build?.use_while_charging"
                >
                  {{ reference.labelOf(reference.tables!.uses_while_charging, use.use) }}
                </button>
              </td>
              <td class="number">{{ use.hours ? use.hours.text : 'never' }}</td>
              <td class="number">{{ use.net_a.text }}</td>
              <td class="number">{{ use.plugged_v ? use.plugged_v.text : 'off' }}</td>
              <td class="quiet narrow:hidden">{{ use.says }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>

    <InTurn
      ><div class="pair lower grid grid-cols-2 gap-y-4 gap-x-28 narrow:grid-cols-1">
        <PartPicker
          v-if="ours"
          title="Charger board"
          :parts="chargers"
          :chosen="board?.name ?? ''"
          @pick="put('charger', $event)"
        />
        <section
          v-if="conversion.build?.who_charges !== 'external'"
          class="flex flex-col gap-7 w-full"
          aria-label="Source and use"
        >
          <h2>Source and use</h2>
          <div class="choice grid grid-cols-[minmax(0,1fr)_200px] items-center gap-8">
            <label for="source">Comes from</label>
            <OneOf
              id="source"
              :model-value="conversion.build?.source?.kind ?? null"
              label="Comes from"
              :options="reference.tables!.sources"
              @update:model-value="chooseSource"
            />
          </div>
          <QuantityField :path="`${path}.source.limit_a`" unit="mA" label="Gives at most" no-basis />
          <QuantityField :path="`${path}.source.r_cable_ohm`" unit="mΩ" label="Cable, both ways" no-basis />
          <QuantityField
            :path="`${path}.source.cable_mm`"
            unit="mm"
            label="Cable, how long"
            placeholder="1000"
            empty="default"
          />
          <ChoiceField
            v-if="ours"
            :path="`${path}.policy`"
            label="Charge"
            :choices="reference.tables!.policies"
          />
          <ChoiceField :path="`${path}.input.kind`" label="Comes in by" :choices="reference.tables!.inputs" />
          <template v-if="asks.includes('centre')">
            <ChoiceField
              :path="`${path}.input.centre`"
              label="Centre pin, measured"
              :choices="reference.tables!.centres"
            />
            <QuantityField
              :path="`${path}.input.open_v`"
              unit="V"
              label="Adapter, unloaded"
              placeholder="not yet"
              empty="default"
            />
            <CheckField :path="`${path}.input.regulated`" label="a regulated 5 V adapter" />
          </template>
          <template v-else-if="asks.includes('pad_efficiency')">
            <QuantityField :path="`${path}.input.pad_efficiency`" unit="%" label="Of the power arrives" />
            <CheckField :path="`${path}.input.pad_ferrite`" label="ferrite between coil and cell" />
            <CheckField :path="`${path}.input.pad_against_cell`" label="pad lies against the cell" />
          </template>
          <CheckField
            v-if="ours && !asks.includes('pad_efficiency')"
            :path="`${path}.input.damped`"
            label="a clamp across its 5 V"
          />
          <CheckField
            v-if="ours && !asks.length"
            :path="`${path}.input.sealed`"
            label="a cap or a seal at its hole"
          />
          <QuantityField
            v-if="ours"
            :path="`${path}.r_tolerance`"
            unit="%"
            label="Tolerance of the resistor"
            no-basis
          />
        </section></div
    ></InTurn>
  </div>
</template>

<style scoped>
h2 {
  margin: 14px 0 4px;
}
.fit h2 {
  margin-bottom: 0;
}
.uses tr.is-current button {
  font-weight: 600;
}
</style>
