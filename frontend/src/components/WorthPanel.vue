<script setup lang="ts">
/** Is it worth it? The verdict first, then what it rests on; the maker's own costs can be put in. */
import type { Worth } from '@/api/client'
import QuantityField from '@/components/QuantityField.vue'
import { plain } from '@/format'

defineProps<{ worth: Worth }>()

const WORDS: Record<Worth['verdict'], string> = {
  yes: 'Yes',
  no: 'No',
  'for its own sake': 'For its own sake',
}
const money = (value: number) => value.toFixed(2)
</script>

<template>
  <section aria-label="Worth it" class="worth">
    <h2>Worth it?</h2>
    <p>
      <b :class="worth.verdict.slice(0, 2)">{{ WORDS[worth.verdict] }}.</b> {{ worth.reason }}
    </p>
    <p class="quiet small">
      Parts {{ money(worth.parts_cost) }}, {{ plain(worth.bench_hours, 2) }} h at the bench<template
        v-if="worth.saved_per_year"
        >; saves {{ money(worth.saved_per_year) }} and {{ plain(worth.sets_per_year ?? 0, 2) }} sets a
        year</template
      >. {{ plain(worth.energy_wh, 2) }} Wh against {{ plain(worth.original_wh, 2) }} Wh of the old
      set<template v-if="worth.rechargeable_wh">
        and {{ plain(worth.rechargeable_wh, 2) }} Wh of bought rechargeables at
        {{ money(worth.rechargeable_cost ?? 0) }}</template
      >; the cell weighs about {{ plain(worth.mass_g, 2) }} g, the old set
      {{ plain(worth.original_mass_g, 2) }} g.
    </p>
    <details>
      <summary>your own costs</summary>
      <div class="fields">
        <QuantityField path="costs.bench_hours" unit="h" label="At the bench" no-basis />
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
.worth {
  margin-top: 10px;
}
.ye {
  color: var(--pass);
}
.no {
  color: var(--stop);
}
.fo {
  color: var(--caution);
}
summary {
  color: var(--ink2);
  cursor: pointer;
}
.fields {
  display: flex;
  flex-direction: column;
  gap: 6px;
  padding: 6px 0;
}
</style>
