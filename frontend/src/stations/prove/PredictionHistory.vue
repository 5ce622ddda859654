<script setup lang="ts">
/** Every prediction as it stood before a measurement was taken into it, and the one of today. */
import { computed } from 'vue'

import type { Prediction } from '@/api/client'
import { amps, duration, engineering, milliampHours } from '@/format'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const props = defineProps<{ now: Prediction | null }>()
const conversion = useConversion()

const rows = computed(() => {
  const earlier = conversion.build?.record.predictions ?? []
  const before = earlier.map((one) => ({
    when: one.at.slice(0, 10),
    why: t('until {adopted}', { adopted: one.adopted }),
    predicted: one.before,
  }))
  return earlier.length && props.now ? [...before, { when: 'now', why: '', predicted: props.now }] : before
})
const or = (value: unknown, write: (value: number) => string) =>
  typeof value === 'number' ? write(value) : '–'
</script>

<template>
  <section v-if="rows.length" aria-label="Prediction before">
    <h2 class="mx-0 mt-18 mb-4">What was predicted, and when</h2>
    <div class="overflow-x-auto">
      <table class="ruled">
        <thead>
          <tr>
            <th></th>
            <th class="number">run time</th>
            <th class="number">charge</th>
            <th class="number">at</th>
            <th class="number">gadget draws</th>
            <th class="number">cell holds</th>
            <th class="number">its resistance</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, index) in rows" :key="index">
            <td>
              {{ row.when }} <small class="quiet block min-w-160">{{ row.why }}</small>
            </td>
            <td class="number">{{ or(row.predicted.run_hours, duration) }}</td>
            <td class="number">{{ or(row.predicted.charge_hours, duration) }}</td>
            <td class="number">{{ or(row.predicted.charge_current_a, amps) }}</td>
            <td class="number">{{ or(row.predicted.gadget_current_a, amps) }}</td>
            <td class="number">{{ or(row.predicted.capacity_ah, milliampHours) }}</td>
            <td class="number">{{ or(row.predicted.r_ohm, (ohm) => engineering(ohm, 'Ω')) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
