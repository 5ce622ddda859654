<script setup lang="ts">
/** Cell: which one, is its label credible, how used is it, and how hard this resistor drives it. */
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'

import { api, sentenceOf, type Cell, type IntakeReading, type ShownNow, type SizeReading } from '@/api/client'
import BestCells from '@/stations/cell/BestCells.vue'
import CellTable from '@/stations/cell/CellTable.vue'
import type { TriedCell } from '@/stations/cell/triedCell'
import InTurn from '@/kit/InTurn.vue'
import CheckField from '@/kit/CheckField.vue'
import CountField from '@/kit/CountField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import GradeLine from '@/components/GradeLine.vue'
import PickField from '@/kit/PickField.vue'
import UnlikeCells from '@/stations/cell/UnlikeCells.vue'
import QuantityField from '@/kit/QuantityField.vue'
import ReadMeter from '@/components/ReadMeter.vue'
import SizeCode from '@/stations/cell/SizeCode.vue'
import { useQuestion } from '@/composables/useQuestion'
import CellGlyph from '@/drawings/CellGlyph.vue'
import { inUnit, plain } from '@/format'
import { useUnits } from '@/composables/useUnits'
import { numbersOf } from '@/document'
import { useConversion } from '@/stores/conversion'
import { useInventory } from '@/stores/inventory'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const { length } = useUnits()
const conversion = useConversion()
const reference = useReference()
const inventory = useInventory()
const route = useRoute()
onMounted(() => inventory.load())

const cell = computed(() => conversion.build?.cell)
const sizes = computed(() => numbersOf(cell.value?.size_mm))
const path = computed(() => `${conversion.buildPath}.cell`)
const summary = computed(() => conversion.assessment?.cell)
const asked = computed(() => !!cell.value?.intake || cell.value?.origin === 'salvaged')

const kept = ref('')
const find = ref('')
watch(
  () => route.query.find,
  (wanted) => (find.value = typeof wanted === 'string' ? wanted : find.value),
  { immediate: true },
)

const candidates = useQuestion(async (body) => await api.POST('/api/questions/candidates', { body }))
const { late: candidatesLate } = candidates
// What the bench, or another conversion, has read of this cell of one's own since it was taken.
const known = useQuestion(async (body) => await api.POST('/api/questions/own-cell', { body }))
const outcomes = computed(() => new Map((candidates.value ?? []).map(({ part, outcome }) => [part, outcome])))
const cells = computed<TriedCell[]>(() => [
  ...inventory.cells.map((part) => ({ id: `inventory-${part.id}`, cell: inventory.asCell(part), own: true })),
  ...reference.cells.map((part) => ({ id: part.id, cell: part.cell!, own: false })),
])

const put = (chosen: Cell) => conversion.put(path.value, chosen)

/** A cell by the code printed on it: its capacity is what such a volume holds until the label is typed in. */
function takeCode(code: string, reading: SizeReading): void {
  const { form, size_mm, cell_class } = reading
  const capacity_ah = (reading.printed_ah ?? reading.capacity_ah).value
  const value = { name: t('Cell {code}', { code }), form, size_mm, capacity_ah, cell_class }
  void conversion.applyEdits([
    { path: path.value, value },
    { path: `basis.${path.value}.capacity_ah`, value: reading.printed_ah ? 'label' : 'inferred' },
  ])
}

async function intoInventory(): Promise<void> {
  const body = { ...(JSON.parse(JSON.stringify(cell.value)) as Cell), inventory_id: null }
  const name = cell.value!.name
  kept.value = (await inventory.add('cell', { body }, 1))
    ? t('{name} is among your parts.', { name })
    : inventory.problem
}

/** What a meter shows of the cell goes where triage looks for it; the core says where. */
const reads = ref('rest')
const readProblem = ref('')
const fromMeter = (shown: ShownNow) => conversion.within(() => fromMeterNow(shown))
async function fromMeterNow(shown: ShownNow): Promise<void> {
  const { volts, amps, origin, at } = shown
  const what = reads.value as IntakeReading
  const { data, error } = await api.POST('/api/questions/intake-reading', {
    body: { ...conversion.question(), what, volts, current_a: amps, origin, at },
  })
  readProblem.value = error ? sentenceOf(error) : ''
  if (data) await conversion.applyEdits(data.edits)
}

function startIntake(): void {
  conversion.edit(`${path.value}.intake`, { rest_v: null, thickness_mm: null, drop_24h_v: null })
}
</script>

<template>
  <div>
    <h1>Which cell</h1>
    <p class="quiet">
      {{
        cell
          ? `${cell.name}: ${sizes ? `${sizes.map((mm) => plain(inUnit(mm, length), 3)).join(' x ')} ${length}` : 'size not given'}.`
          : 'Pick the largest cell that may fit; its own figures can be mended afterwards.'
      }}
    </p>
    <div class="min-h-120 narrow:min-h-200" :class="{ late: candidatesLate }">
      <BestCells
        v-if="candidates !== undefined"
        :cells="cells"
        :outcomes="outcomes"
        :chosen="cell?.name ?? ''"
        @choose="put($event.cell)"
      />
    </div>
    <div class="style flex items-center gap-24 mt-8 narrow:gap-y-6 narrow:gap-x-16 narrow:flex-wrap">
      <ChoiceField
        :path="`${conversion.buildPath}.style`"
        label="Where it sits"
        :choices="reference.tables!.styles"
      />
      <RouterLink to="/parts" class="tap link">Your own cells …</RouterLink>
    </div>

    <section
      v-if="cell"
      class="chosen grid grid-cols-[auto_repeat(2,minmax(210px,1fr))] items-start gap-y-10 gap-x-28 mx-0 mt-14 mb-4"
      aria-label="Chosen cell"
    >
      <CellGlyph :cell="cell" :scale="1.35" chosen />
      <div class="fields">
        <QuantityField :path="`${path}.capacity_ah`" unit="mAh" label="Label says" />
        <QuantityField
          :path="`${path}.measured_capacity_ah`"
          unit="mAh"
          label="Measured"
          placeholder="not yet"
          empty="default"
        />
        <QuantityField
          :path="`${path}.r_ohm`"
          unit="mΩ"
          label="Resistance"
          :placeholder="summary ? plain(summary.r_ohm.value * 1000, 3) : undefined"
          empty="default"
        />
      </div>
      <div class="fields">
        <QuantityField
          :path="`${path}.charge_max_a`"
          unit="mA"
          label="Takes at most"
          placeholder="unknown"
          empty="default"
        />
        <QuantityField
          :path="`${path}.discharge_max_a`"
          unit="mA"
          label="Gives at most"
          placeholder="unknown"
          empty="default"
        />
        <ChoiceField :path="`${path}.origin`" label="Origin" :choices="reference.tables!.origins" />
      </div>
      <div class="count flex col-[2_/_-1] flex-wrap items-center gap-y-4 gap-x-14 narrow:col-[1]">
        <CountField
          :path="`${conversion.buildPath}.cell_count`"
          label="alike, in parallel"
          name="cells in parallel"
          :least="1"
          :most="6"
        />
        <CountField
          :path="`${conversion.buildPath}.cells_in_series`"
          label="in series"
          name="cells in series"
          :least="1"
          :most="4"
        />
        <ElCheckbox
          :model-value="!!cell.own_protection"
          @update:model-value="conversion.edit(`${path}.own_protection`, $event)"
          >has its own protection</ElCheckbox
        >
        <CheckField :path="`${path}.thermistor_lead`" label="temperature wire" />
        <CheckField :path="`${path}.polarity_measured`" label="polarity measured" />
        <span v-if="summary?.density_wh_per_l" class="quiet"
          >{{ plain(summary.density_wh_per_l, 3) }} Wh/l</span
        >
      </div>
      <p
        v-if="known"
        class="col-[2_/_-1] flex flex-wrap items-baseline gap-y-4 gap-x-14 narrow:col-[1]"
        role="status"
      >
        {{ known.says }}
        <button
          type="button"
          class="bare text-copper font-semibold"
          @click="conversion.applyEdits(known.edits)"
        >
          Take it over
        </button>
      </p>
      <UnlikeCells class="col-[2_/_-1] narrow:col-[1]" />
      <div
        v-if="asked && summary"
        class="intake grid col-[2_/_-1] grid-cols-[minmax(210px,1fr)_minmax(210px,1fr)] gap-y-10 gap-x-28 pt-8 border-t border-line narrow:col-[1]"
      >
        <div class="fields">
          <QuantityField :path="`${path}.intake.rest_v`" unit="V" label="At rest" placeholder="not yet" />
          <QuantityField
            v-if="cell.form !== 'round'"
            :path="`${path}.intake.thickness_mm`"
            unit="mm"
            label="Thick"
            placeholder="not yet"
          />
          <QuantityField
            :path="`${path}.intake.drop_24h_v`"
            unit="mV"
            label="Drop after 24 h"
            placeholder="not yet"
          />
        </div>
        <div class="fields">
          <PickField v-model="reads" label="A meter's reading" :options="reference.tables!.intake_readings" />
          <ReadMeter :figures="['volts']" @reading="fromMeter" />
          <span v-if="readProblem" class="error-line" role="alert">{{ readProblem }}</span>
        </div>
        <GradeLine :grade="summary.grade" />
      </div>
      <div class="flex col-[2_/_-1] flex-wrap items-center gap-y-4 gap-x-14 narrow:col-[1]">
        <button v-if="!asked" type="button" class="bare text-copper font-semibold" @click="startIntake">
          Take its readings …
        </button>
        <button
          v-if="!cell.inventory_id"
          type="button"
          class="bare text-copper font-semibold"
          @click="intoInventory"
        >
          Keep it in your parts
        </button>
        <span v-if="kept" class="quiet" role="status">{{ kept }}</span>
      </div>
    </section>

    <InTurn v-if="candidates !== undefined || conversion.stale">
      <CellTable
        v-model:find="find"
        :cells="cells"
        :outcomes="outcomes"
        :chosen="cell?.name ?? ''"
        :late="candidatesLate"
        @choose="put($event.cell)"
      >
        <SizeCode @take="takeCode" />
      </CellTable>
    </InTurn>
  </div>
</template>

<style scoped>
.style :deep(.choice) {
  grid-template-columns: auto 210px;
}
.fields {
  display: flex;
  flex-direction: column;
  gap: 7px;
}
.chosen :deep(.choice) {
  grid-template-columns: minmax(0, 1fr) 142px;
}
@media (max-width: 860px) {
  .chosen,
  .intake {
    grid-template-columns: 1fr;
  }
}
</style>
