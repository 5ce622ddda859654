<script setup lang="ts">
/** What powers the gadget today: batteries drawn to pick from, a pack by its volts, or lithium with its charger. */
import { computed } from 'vue'

import type { Choice } from '@/api/client'
import BatteryPicker from '@/stations/survey/BatteryPicker.vue'
import CheckField from '@/kit/CheckField.vue'
import CountField from '@/kit/CountField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

const conversion = useConversion()
const reference = useReference()
const supply = computed(() => conversion.document!.gadget.supply)
const battery = computed(() => reference.tables!.batteries.find((b) => b.iec === supply.value.battery))
const chemistries = computed<Choice[]>(() =>
  supply.value.kind === 'cells'
    ? reference.tables!.chemistries.filter((choice) => battery.value?.chemistries.includes(choice.value))
    : reference.tables!.chemistries,
)

function become(kind: string): void {
  conversion.change((document) => {
    const now = document.gadget.supply
    now.kind = kind as typeof now.kind
    if (kind === 'pack') Object.assign(now, { pack_v: now.pack_v ?? 3.6, chemistry: 'nimh' })
    if (kind === 'cells' && !battery.value?.chemistries.includes(now.chemistry ?? ''))
      now.chemistry = battery.value!.chemistries[0] as typeof now.chemistry
    if (kind === 'lithium')
      now.own_charger ??= { current_a: null, float_v: null, timer_h: null, reads_thermistor: false }
  })
}
</script>

<template>
  <section aria-label="Supply">
    <div class="kinds flex gap-4 mx-0 mt-2 mb-8" role="radiogroup" aria-label="What powers it today">
      <button
        v-for="kind in reference.tables!.supply_kinds"
        :key="kind.value"
        class="px-12 py-3 border-b-2 border-transparent text-ink2 hover:bg-sunk current:border-copper current:text-copper current:font-semibold"
        type="button"
        role="radio"
        :aria-checked="supply.kind === kind.value"
        :class="['bare', { 'is-current': supply.kind === kind.value }]"
        :title="kind.detail"
        @click="become(kind.value)"
      >
        {{ kind.label }}
      </button>
    </div>

    <template v-if="supply.kind === 'cells'">
      <BatteryPicker />
      <div class="row flex flex-wrap items-center gap-y-8 gap-x-26 mt-10">
        <CountField path="gadget.supply.series" label="in series" :least="1" :most="12" />
        <CountField path="gadget.supply.parallel" label="in parallel" :least="1" :most="6" />
        <ChoiceField path="gadget.supply.chemistry" label="Chemistry" :choices="chemistries" />
      </div>
    </template>

    <div v-else-if="supply.kind === 'pack'" class="row flex flex-wrap items-center gap-y-8 gap-x-26 mt-10">
      <QuantityField path="gadget.supply.pack_v" unit="V" label="Printed on it" />
      <QuantityField
        path="gadget.supply.pack_capacity_ah"
        unit="mAh"
        label="Holds"
        placeholder="not stated"
      />
      <ChoiceField path="gadget.supply.chemistry" label="Chemistry" :choices="chemistries" />
      <p v-if="conversion.refusalAt('gadget.supply')" class="error-line" role="alert">
        {{ conversion.refusalAt('gadget.supply') }}
      </p>
    </div>

    <div
      v-else
      class="row lithium grid flex-wrap items-center grid-cols-[repeat(auto-fit,minmax(250px,1fr))] gap-y-8 gap-x-26 mt-10"
    >
      <ChoiceField
        path="gadget.supply.lithium_class"
        label="Class"
        :choices="reference.tables!.cell_classes"
      />
      <QuantityField
        path="gadget.supply.pack_capacity_ah"
        unit="mAh"
        label="Holds"
        placeholder="not stated"
      />
      <QuantityField
        path="gadget.supply.own_charger.current_a"
        unit="mA"
        label="Its charger gives"
        placeholder="unknown"
      />
      <QuantityField
        path="gadget.supply.own_charger.float_v"
        unit="V"
        label="and stops at"
        placeholder="by class"
      />
      <QuantityField
        path="gadget.supply.own_charger.timer_h"
        unit="h"
        label="Timer ends it after"
        placeholder="no timer"
      />
      <CheckField path="gadget.supply.own_charger.reads_thermistor" label="it reads a temperature wire" />
    </div>
  </section>
</template>

<style scoped>
.row :deep(.choice) {
  grid-template-columns: auto 176px;
}
.lithium :deep(.choice) {
  grid-template-columns: minmax(0, 1fr) 176px;
}
</style>
