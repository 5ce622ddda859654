<script setup lang="ts">
/** Pick the old batteries of this conversion; press the chosen one again for one more in series. */
import { computed } from 'vue'

import type { BatterySize, Project } from '@/api/client'
import { numberOf } from '@/document'
import BatterySizes from '@/drawings/BatterySizes.vue'
import { useConversion } from '@/stores/conversion'

const MOST_IN_SERIES = 12

const conversion = useConversion()
const supply = computed(() => conversion.document!.gadget.supply)

const PLACES = ['gadget.supply.battery', 'gadget.supply.series']
const isSaid = computed(() => conversion.basisOf(PLACES[0]!) !== 'default')
function say(document: Project): void {
  document.basis = { ...document.basis, ...Object.fromEntries(PLACES.map((place) => [place, 'label'])) }
}

function pick(battery: BatterySize): void {
  if (battery.iec === supply.value.battery) {
    const series = numberOf(supply.value.series) ?? 1
    conversion.change((document) => {
      // The first press on what was only taken for granted says that it is so.
      if (isSaid.value) document.gadget.supply.series = series >= MOST_IN_SERIES ? 1 : series + 1
      say(document)
    })
    return
  }
  conversion.change((document) => {
    say(document)
    const chemistry = supply.value.chemistry ?? ''
    document.gadget.supply.battery = battery.iec as typeof supply.value.battery
    if (!battery.chemistries.includes(chemistry))
      document.gadget.supply.chemistry = battery.chemistries[0] as typeof supply.value.chemistry
  })
}
</script>

<template>
  <p v-if="!isSaid" class="quiet small">
    Nobody has said yet which ones: {{ numberOf(supply.series) ?? 1 }} of those that are marked are taken
    until you press yours.
  </p>
  <BatterySizes :chosen="supply.battery" :count="numberOf(supply.series)" @pick="pick" />
</template>
