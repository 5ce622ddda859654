<script setup lang="ts">
/** One charge from empty to full: how long, how warm, whoever charges. */
import { ref } from 'vue'

import type { ChargingSummary } from '@/api/client'
import ChargeChart from '@/stations/charge/ChargeChart.vue'

defineProps<{ charging: ChargingSummary }>()
const shown = ref<'electric' | 'filled' | 'warm'>('electric')
</script>

<template>
  <section aria-label="Charge run">
    <h2 class="mt-14 mb-4">
      The charge: {{ charging.current_a.text }},
      <template v-if="charging.hours">full in about {{ charging.hours.text }}</template>
      <template v-else>it never ends</template>
    </h2>
    <ChargeChart :charge="charging" :show="shown" />
    <ElRadioGroup v-model="shown" size="small" aria-label="What the picture shows">
      <ElRadioButton value="electric">V and A</ElRadioButton>
      <ElRadioButton value="filled">mAh</ElRadioButton>
      <ElRadioButton value="warm">°C</ElRadioButton>
    </ElRadioGroup>
    <p class="quiet small mt-6">
      <template v-if="charging.hours"
        >Between {{ charging.hours_least!.text }} and {{ charging.hours_most!.text }} on the bench.
      </template>
      <template v-if="charging.hours_to_80">80 % after {{ charging.hours_to_80.text }}. </template>
      The cell gets {{ charging.cell_c_most.text }} warm at most, the air around it
      {{ charging.inside_c_most.text }}.
    </p>
    <p class="quiet small"><slot /></p>
  </section>
</template>
