<script setup lang="ts">
/** All battery sizes drawn to one scale, to pick one from: sticks and blocks in one row, coins and buttons in the next. */
import { computed } from 'vue'

import type { BatterySize } from '@/api/client'
import BatteryGlyph from '@/drawings/BatteryGlyph.vue'
import { plain } from '@/format'
import { useUnits } from '@/composables/useUnits'
import { useReference } from '@/stores/reference'

const { bare, length } = useUnits()

const PX_PER_MM = 1.3

defineProps<{ chosen?: string; count?: number }>()
const emit = defineEmits<{ pick: [battery: BatterySize] }>()
const reference = useReference()
const rows = computed(() => {
  const flat = (battery: BatterySize) => battery.form === 'coin' || battery.form === 'button'
  const all = reference.tables!.batteries
  return [all.filter((battery) => !flat(battery)), all.filter(flat)]
})
</script>

<template>
  <div role="group" aria-label="Old batteries">
    <div
      v-for="(row, index) in rows"
      :key="index"
      class="row flex flex-wrap items-end justify-start gap-y-6 gap-x-18 mb-4 narrow:gap-x-10 narrow:justify-start"
    >
      <button
        v-for="battery in row"
        :key="battery.iec"
        class="hover:bg-sunk"
        type="button"
        :class="['bare', { 'is-current': battery.iec === chosen }]"
        :aria-pressed="battery.iec === chosen"
        :title="`${battery.iec}, ${plain(battery.nominal_v)} V, ${battery.size_mm.map(bare).join(' x ')} ${length}`"
        @click="emit('pick', battery)"
      >
        <BatteryGlyph
          :battery="battery"
          :scale="PX_PER_MM"
          :chosen="battery.iec === chosen"
          :count="battery.iec === chosen ? count : 1"
        />
        <span>{{ battery.common.replace(' lithium', '') }}</span>
      </button>
    </div>
  </div>
</template>
<style scoped>
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
button.is-current {
  color: var(--copper);
  font-weight: 700;
}
</style>
