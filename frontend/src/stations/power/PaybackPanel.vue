<script setup lang="ts">
/** Is it worth it? The answer first, then what it rests on; the maker's own costs can be put in. */
import type { Payback } from '@/api/client'
import NameField from '@/kit/NameField.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { useMoney } from '@/composables/useMoney'
import { plain } from '@/format'
import { t } from '@/words'

defineProps<{ payback: Payback }>()

const WORDS: Record<Payback['answer'], string> = {
  yes: t('Yes'),
  no: t('No'),
  'for its own sake': t('For its own sake'),
}
const money = useMoney()
</script>

<template>
  <section aria-label="Worth it" class="mt-10">
    <h2>Worth it?</h2>
    <p>
      <b :class="{ no: payback.answer === 'no' }">{{ WORDS[payback.answer] }}.</b> {{ payback.reason }}
    </p>
    <p class="quiet small">
      Parts {{ money(payback.parts_cost) }}, wire and solder {{ money(payback.small_parts_cost) }},
      {{ payback.bench_hours.text }} at the bench<template v-if="payback.saved_per_year"
        >; saves {{ money(payback.saved_per_year) }} and {{ plain(payback.sets_per_year ?? 0, 2) }} sets a
        year</template
      >. {{ payback.energy_wh.text }} against {{ payback.original_wh.text }} of the old set<template
        v-if="payback.rechargeable_wh"
      >
        and {{ payback.rechargeable_wh.text }} of bought rechargeables at
        {{ money(payback.rechargeable_cost ?? 0) }}</template
      >; the cell weighs about {{ plain(payback.mass_g, 2) }} g, the old set
      {{ plain(payback.original_mass_g, 2) }} g.
    </p>
    <details>
      <summary class="text-ink2 cursor-pointer">your own costs</summary>
      <div class="flex flex-col gap-6 px-0 py-6">
        <label class="flex items-center gap-8">
          Prices are in
          <NameField path="costs.currency" label="Prices are in" placeholder="no currency said" :most="6" />
        </label>
        <QuantityField
          path="costs.bench_hours"
          unit="h"
          label="At the bench"
          :placeholder="plain(payback.bench_hours.value, 2)"
          empty="default"
          no-basis
        />
        <QuantityField path="costs.hourly_rate" unit="" label="An hour is worth" no-basis />
        <QuantityField
          path="costs.battery_price"
          unit=""
          label="One old battery costs"
          placeholder="usual"
          no-basis
        />
      </div>
    </details>
  </section>
</template>

<style scoped>
.ye {
  color: var(--pass);
}
.no {
  color: var(--stop);
}
.fo {
  color: var(--caution);
}
</style>
