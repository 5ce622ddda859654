<script setup lang="ts">
/** Charge: which board, which resistor, how long. */
import { computed } from 'vue'

import type { Part } from '@/api/client'
import ChargeChart from '@/charts/ChargeChart.vue'
import ChoiceField from '@/components/ChoiceField.vue'
import PartPicker from '@/components/PartPicker.vue'
import QuantityField from '@/components/QuantityField.vue'
import { useBoards } from '@/composables/useBoards'
import CurrentPicture from '@/drawings/CurrentPicture.vue'
import ResistorDrawing from '@/drawings/ResistorDrawing.vue'
import { amps, duration, percent, plain } from '@/format'
import { useConversion } from '@/stores/conversion'
import { useTrade } from '@/stores/trade'

const conversion = useConversion()
const trade = useTrade()
const { boardAt, put } = useBoards()

const path = computed(() => conversion.buildPath)
const charge = computed(() => conversion.assessment?.charge)
const board = computed(() => boardAt('charger'))

const told = computed(() => {
  if (!board.value) return 'Choose the board that fills the cell; its resistor sets the current.'
  if (!charge.value) return 'Choose a cell first: the current follows from what it holds.'
  const policy = trade.tables!.policies.find((choice) => choice.value === conversion.build!.policy)
  return `${policy?.label}: ${policy?.detail}. Fit a value whose whole band stays under every line.`
})

function fit(ohm: number): void {
  conversion.change((document) => {
    const build = document.builds[conversion.buildIndex]!
    build.r_program_ohm = ohm
    build.r_measured_ohm = null
  })
}

function chooseSource(kind: string): void {
  conversion.change((document) => {
    // The usual limit of the kind is the core's to fill in.
    document.builds[conversion.buildIndex]!.source = { kind } as never
  })
}

function boardText(part: Part): string {
  const { charger, guard, socket, outline_mm, load_sharing } = part.board!
  const sockets: Record<string, string> = { type_c: 'Type-C', micro_b: 'Micro-B', mini_b: 'Mini-B' }
  return [
    `K ${charger!.k_volts}`,
    `${charger!.float_v?.toFixed(2)} V`,
    socket ? sockets[socket.kind] : 'pads only',
    guard ? 'guard' : 'no guard',
    load_sharing ? 'load sharing' : '',
    `${outline_mm?.map((mm) => plain(mm, 3)).join(' x ')} mm`,
  ]
    .filter(Boolean)
    .join(', ')
}
</script>

<template>
  <div>
    <h1>Which resistor, how long</h1>
    <p class="quiet">{{ told }}</p>

    <template v-if="charge">
      <h2>Charge current over program resistor</h2>
      <CurrentPicture :charge="charge" @fit="fit" />
      <div class="pair">
        <section class="fit" aria-label="Resistor">
          <h2>{{ charge.r_origin === 'suggested' ? 'Fit this one' : `This one, ${charge.r_origin}` }}</h2>
          <ResistorDrawing :bands="charge.fitted.bands" :chip-code="charge.fitted.chip_code_4" />
          <p>
            <b class="big">{{ charge.fitted.text }}</b>
            {{ amps(charge.current_a) }}, between {{ amps(charge.current_least_a) }} and
            {{ amps(charge.current_most_a) }}
          </p>
          <p class="quiet small">
            {{ charge.fitted.bands.join(' ') }}; chip {{ charge.fitted.chip_code }},
            {{ charge.fitted.chip_code_4 }}{{ charge.fitted.eia96 ? `, ${charge.fitted.eia96}` : '' }}; on
            paper {{ charge.fitted.rkm }}
          </p>
          <div class="fields">
            <QuantityField
              :path="`${path}.r_program_ohm`"
              unit="kΩ"
              label="Fitted"
              :placeholder="plain(charge.r_program_ohm / 1000)"
              no-basis
            />
            <QuantityField
              :path="`${path}.r_measured_ohm`"
              unit="kΩ"
              label="Measured on the board"
              placeholder="not yet"
              empty="default"
            />
          </div>
          <ElButton
            v-if="charge.suggested.r_ohm !== charge.fitted.r_ohm"
            type="primary"
            plain
            @click="fit(charge.suggested.r_ohm)"
            >Fit {{ charge.suggested.text }}, under every line</ElButton
          >
        </section>
        <section aria-label="Charge run">
          <h2>
            The charge: {{ amps(charge.current_a) }},
            <template v-if="charge.hours">full in about {{ duration(charge.hours) }}</template>
            <template v-else>it never ends</template>
          </h2>
          <ChargeChart :charge="charge" />
          <p class="quiet small">
            <template v-if="charge.hours"
              >Between {{ duration(charge.hours_least!) }} and {{ duration(charge.hours_most!) }} on the
              bench; {{ percent(charge.cc_share) }} of the time at constant current.
            </template>
            Ends at {{ amps(charge.end_current_a) }}. At first the chip turns {{ plain(charge.heat_w, 2) }} W
            into heat.
          </p>
        </section>
      </div>
    </template>

    <div class="pair lower">
      <PartPicker
        title="Charger board"
        :parts="trade.boards('charger')"
        :chosen="board?.name ?? ''"
        :describe="boardText"
        @pick="put('charger', $event)"
      />
      <section class="fields" aria-label="Source and use">
        <h2>Source and use</h2>
        <div class="choice">
          <label for="source">Comes from</label>
          <ElSelect
            id="source"
            :model-value="conversion.build?.source?.kind"
            aria-label="Comes from"
            @update:model-value="chooseSource"
          >
            <ElOption
              v-for="source in trade.tables!.sources"
              :key="source.value"
              :value="source.value"
              :label="source.label"
            >
              {{ source.label }}<small>{{ source.detail }}</small>
            </ElOption>
          </ElSelect>
        </div>
        <QuantityField :path="`${path}.source.limit_a`" unit="mA" label="Gives at most" no-basis />
        <QuantityField :path="`${path}.source.r_cable_ohm`" unit="mΩ" label="Cable, both ways" no-basis />
        <ChoiceField :path="`${path}.policy`" label="Charge" :choices="trade.tables!.policies" />
        <ChoiceField
          :path="`${path}.use_while_charging`"
          label="Used while it charges"
          :choices="trade.tables!.uses_while_charging"
        />
        <QuantityField :path="`${path}.r_tolerance`" unit="%" label="Tolerance of the resistor" no-basis />
      </section>
    </div>
  </div>
</template>

<style scoped>
h2 {
  margin: 14px 0 4px;
}
.pair {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
  gap: 4px 28px;
}
.lower {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
}
.fit {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 6px;
}
.fit h2 {
  margin-bottom: 0;
}
.big {
  font-size: 19px;
  margin-right: 4px;
}
.fields {
  display: flex;
  flex-direction: column;
  gap: 7px;
  width: 100%;
}
.choice {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 200px;
  align-items: center;
  gap: 8px;
}
@media (max-width: 860px) {
  .pair,
  .lower {
    grid-template-columns: 1fr;
  }
}
</style>
