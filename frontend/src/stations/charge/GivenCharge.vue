<script setup lang="ts">
/** A charger that is there already, the gadget's own or one outside: what it gives, and what comes of it. */
import { computed } from 'vue'

import type { ChargingSummary } from '@/api/client'
import ChargeRun from '@/stations/charge/ChargeRun.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { plain } from '@/format'
import { useConversion } from '@/stores/conversion'

defineProps<{ charging?: ChargingSummary | null }>()
const conversion = useConversion()
const outside = computed(() => conversion.build?.who_charges === 'external')
const figures = computed(() =>
  outside.value ? `${conversion.buildPath}.external_charger` : 'gadget.supply.own_charger',
)
</script>

<template>
  <div class="grid grid-cols-[minmax(0,5fr)_minmax(0,7fr)] gap-y-4 gap-x-28 narrow:grid-cols-1">
    <section class="flex flex-col gap-7" :aria-label="outside ? 'External charger' : 'Its own charger'">
      <h2 class="mt-14 mb-4">{{ outside ? 'What stands on it' : 'What it gives' }}</h2>
      <QuantityField
        :path="`${figures}.current_a`"
        unit="mA"
        label="Charges with"
        placeholder="not yet"
        empty="default"
      />
      <QuantityField
        :path="`${figures}.float_v`"
        unit="V"
        label="and stops at"
        :placeholder="charging ? plain(charging.ends_v.value, 3) : 'usual'"
        empty="default"
      />
      <QuantityField
        v-if="!outside"
        :path="`${figures}.timer_h`"
        unit="h"
        label="Timer ends it after"
        placeholder="no timer"
        empty="default"
      />
      <QuantityField
        v-if="outside"
        :path="`${figures}.price`"
        unit=""
        label="Still to pay for it"
        placeholder="none"
        empty="default"
        no-basis
      />
      <p class="quiet small">
        {{
          outside
            ? 'Both stand on its label. Out of the gadget the cell has no board beside it: it needs its own protection.'
            : 'Current: multimeter in the plus lead of the cell, cell half empty. End: volts of the full cell.'
        }}
      </p>
    </section>
    <ChargeRun v-if="charging" :charging="charging">
      By the {{ charging.says }}. It ends the charge by itself; what its chip does when it gets hot is not
      known.
    </ChargeRun>
  </div>
</template>
