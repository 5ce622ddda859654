<script setup lang="ts">
/** Survey: what it takes, what it draws, and between which volts it works. */
import { computed } from 'vue'

import type { Choice } from '@/api/client'
import BasisMark from '@/components/BasisMark.vue'
import BatteryPicker from '@/components/BatteryPicker.vue'
import ChoiceField from '@/components/ChoiceField.vue'
import ModesTable from '@/components/ModesTable.vue'
import QuantityField from '@/components/QuantityField.vue'
import VoltageRuler from '@/drawings/VoltageRuler.vue'
import { amps, plain } from '@/format'
import { useConversion } from '@/stores/conversion'
import { useTrade } from '@/stores/trade'

const conversion = useConversion()
const trade = useTrade()

const gadget = computed(() => conversion.document!.gadget)
const survey = computed(() => conversion.assessment?.survey)
const battery = computed(() => trade.tables!.batteries.find((b) => b.iec === gadget.value.supply.battery))
const chemistries = computed<Choice[]>(() =>
  trade.tables!.chemistries.filter((choice) => battery.value?.chemistries.includes(choice.value)),
)

const told = computed(() => {
  const { series = 1, parallel = 1, chemistry } = gadget.value.supply
  const set = `${series} ${battery.value?.common}${parallel > 1 ? ` by ${parallel} in parallel` : series > 1 ? ' in series' : ''}`
  const behind = trade.labelOf(trade.tables?.front_ends, gadget.value.front_end)
  return `${set}, ${trade.labelOf(trade.tables?.chemistries, chemistry)}; behind them: ${behind}.`
})
</script>

<template>
  <div class="survey">
    <h1>What it takes, what it draws</h1>
    <p class="quiet">{{ told }}</p>

    <h2>Old batteries, drawn to one scale</h2>
    <BatteryPicker />

    <div class="columns">
      <section class="fields" aria-label="Supply and front end">
        <div class="count">
          <label for="series">in series</label>
          <ElInputNumber
            id="series"
            :model-value="gadget.supply!.series"
            :min="1"
            :max="12"
            size="small"
            aria-label="in series"
            @update:model-value="conversion.edit('gadget.supply.series', $event ?? 1)"
          />
          <label for="parallel">in parallel</label>
          <ElInputNumber
            id="parallel"
            :model-value="gadget.supply!.parallel"
            :min="1"
            :max="6"
            size="small"
            aria-label="in parallel"
            @update:model-value="conversion.edit('gadget.supply.parallel', $event ?? 1)"
          />
        </div>
        <ChoiceField path="gadget.supply.chemistry" label="Chemistry" :choices="chemistries" />
        <ChoiceField
          path="gadget.front_end"
          label="Behind the terminals"
          :choices="trade.tables!.front_ends"
        />
        <QuantityField
          path="gadget.window.v_run_min"
          unit="V"
          label="Works down to"
          empty="inferred"
          :placeholder="survey && plain(survey.window.v_run_min, 3)"
        />
        <QuantityField
          path="gadget.window.v_abs_max"
          unit="V"
          label="May be given up to"
          empty="inferred"
          :placeholder="survey && plain(survey.window.v_abs_max, 3)"
        />
        <p v-if="conversion.refused['gadget.window']" class="why" role="alert">
          {{ conversion.refused['gadget.window'] }}
        </p>
      </section>
      <section aria-label="What it draws">
        <h2>What it draws</h2>
        <ModesTable />
        <p v-if="survey && gadget.modes!.length" class="quiet small">
          Average {{ amps(survey.average_a) }}, {{ plain(survey.daily_ah * 1000, 3) }} mAh a day.
        </p>
      </section>
    </div>

    <template v-if="survey">
      <h2>
        Voltage ruler
        <span class="window"
          >works from {{ plain(survey.window.v_run_min, 3) }} V
          <BasisMark :basis="survey.window.min_basis" /> to {{ plain(survey.window.v_abs_max, 3) }} V
          <BasisMark :basis="survey.window.max_basis"
        /></span>
      </h2>
      <VoltageRuler :bands="survey.ruler" :window="survey.window" />
    </template>
  </div>
</template>

<style scoped>
h2 {
  margin: 16px 0 6px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
  gap: 8px 32px;
  margin-top: 14px;
}
.columns h2 {
  margin-top: 0;
}
.fields {
  display: flex;
  flex-direction: column;
  gap: 7px;
}
.count {
  display: grid;
  grid-template-columns: auto 1fr auto auto;
  align-items: center;
  gap: 8px;
}
.count :deep(.el-input-number) {
  width: 84px;
}
.window {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  margin-left: 10px;
  font-weight: 400;
}
.why {
  color: var(--stop);
  font-size: 13px;
}
.small {
  margin-top: 6px;
}
@media (max-width: 860px) {
  .columns {
    grid-template-columns: 1fr;
  }
  .count {
    grid-template-columns: auto 1fr;
  }
}
</style>
