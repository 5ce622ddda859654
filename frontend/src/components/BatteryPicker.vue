<script setup lang="ts">
/** Pick the old batteries from all sizes drawn to one scale; press the chosen one again for one more in series. */
import { computed } from 'vue'

import type { BatterySize } from '@/api/client'
import BatteryGlyph from '@/drawings/BatteryGlyph.vue'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

const PX_PER_MM = 1.3
const MOST_IN_SERIES = 12

const conversion = useConversion()
const reference = useReference()
/** Sticks and blocks in one row, coins and buttons in the next. */
const rows = computed(() => {
  const flat = (battery: BatterySize) => battery.form === 'coin' || battery.form === 'button'
  const all = reference.tables!.batteries
  return [all.filter((battery) => !flat(battery)), all.filter(flat)]
})
const supply = computed(() => conversion.document!.gadget.supply)

function pick(battery: BatterySize): void {
  if (battery.iec === supply.value.battery) {
    const series = supply.value.series ?? 1
    conversion.edit('gadget.supply.series', series >= MOST_IN_SERIES ? 1 : series + 1)
    return
  }
  conversion.change((document) => {
    const chemistry = supply.value.chemistry ?? ''
    document.gadget.supply.battery = battery.iec as typeof supply.value.battery
    if (!battery.chemistries.includes(chemistry))
      document.gadget.supply.chemistry = battery.chemistries[0] as typeof supply.value.chemistry
  })
}
</script>

<template>
  <div role="group" aria-label="Old batteries">
    <div v-for="(row, index) in rows" :key="index" class="row">
      <button
        v-for="battery in row"
        :key="battery.iec"
        type="button"
        :class="['bare', { 'is-current': battery.iec === supply.battery }]"
        :aria-pressed="battery.iec === supply.battery"
        :title="`${battery.iec}, ${battery.nominal_v} V, ${battery.size_mm.join(' x ')} mm`"
        @click="pick(battery)"
      >
        <BatteryGlyph
          :battery="battery"
          :scale="PX_PER_MM"
          :chosen="battery.iec === supply.battery"
          :count="battery.iec === supply.battery ? supply.series : 1"
        />
        <span>{{ battery.common.replace(' lithium', '') }}</span>
      </button>
    </div>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  justify-content: flex-start;
  gap: 6px 18px;
  margin-bottom: 4px;
}
button {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 5px;
  min-width: 30px;
  padding: 3px 1px 1px;
  border-radius: 3px;
  font-size: 11px;
  color: var(--ink2);
}
button:hover {
  background: var(--sunk);
}
button.is-current {
  color: var(--copper);
  font-weight: 700;
}
@media (max-width: 860px) {
  .row {
    justify-content: flex-start;
    column-gap: 10px;
  }
}
</style>
