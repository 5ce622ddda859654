<script setup lang="ts">
/** Pick the old batteries of this conversion; press the chosen one again for one more in series. */
import { computed } from 'vue'

import type { BatterySize } from '@/api/client'
import BatterySizes from '@/drawings/BatterySizes.vue'
import { useConversion } from '@/stores/conversion'

const MOST_IN_SERIES = 12

const conversion = useConversion()
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
  <BatterySizes :chosen="supply.battery" :count="supply.series" @pick="pick" />
</template>
