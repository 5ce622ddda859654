<script setup lang="ts">
/** What later tests of this very cell found: they are drawn on its curve, and move it. */
import { computed } from 'vue'

import QuantityField from '@/kit/QuantityField.vue'
import { useConversion } from '@/stores/conversion'

const conversion = useConversion()
const path = computed(() => `${conversion.buildPath}.cell`)
const tests = computed(() => conversion.build?.cell?.tests ?? [])
const add = () => conversion.addRow(`${path.value}.tests`, { after_years: 1 })
</script>

<template>
  <section aria-label="Tests of this cell">
    <h2>This very cell</h2>
    <QuantityField
      :path="`${path}.age_years`"
      unit="years"
      label="Old when put to use"
      placeholder="new"
      no-basis
    />
    <div
      v-for="(test, at) in tests"
      :key="test.id"
      role="group"
      :aria-label="`Test ${at + 1}`"
      class="mt-8 pt-6 border-t border-line grid gap-4"
    >
      <QuantityField
        :path="`${path}.tests.${test.id}.after_years`"
        unit="years"
        label="Tested after"
        no-basis
      />
      <QuantityField
        :path="`${path}.tests.${test.id}.capacity_ah`"
        unit="mAh"
        label="It held"
        placeholder="not read"
        no-basis
      />
      <QuantityField
        :path="`${path}.tests.${test.id}.r_ohm`"
        unit="mΩ"
        label="Resistance"
        placeholder="not read"
        no-basis
      />
      <button
        type="button"
        class="bare link-button justify-self-start"
        @click="conversion.removeRow(`${path}.tests`, at)"
      >
        Remove this test
      </button>
    </div>
    <p class="m-0 mt-8">
      <button type="button" class="bare text-copper font-semibold" @click="add">+ a test of it</button>
    </p>
  </section>
</template>

<style scoped>
h2 {
  margin: 18px 0 6px;
}
</style>
