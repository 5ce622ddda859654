<script setup lang="ts">
/** Every shaper tried in this build: the gadget's volts from full to empty on its window, how long, and the verdict. */
import { computed } from 'vue'

import type { ShaperOption, WindowSummary } from '@/api/client'
import LevelMark from '@/components/LevelMark.vue'
import { days, duration, plain, volts } from '@/format'

const props = defineProps<{ options: readonly ShaperOption[]; window: WindowSummary; chosen: string }>()
const emit = defineEmits<{ pick: [name: string] }>()

const WIDE = 92
const TALL = 34
/** Window and lithium band fill the picture; what lies far outside runs along its edge. */
const low = computed(() => Math.min(props.window.v_run_min, 3) - 0.2)
const high = computed(() => Math.max(props.window.v_abs_max, 4.2) + 0.2)
const y = (v: number) => {
  const share = (v - low.value) / (high.value - low.value)
  return TALL - 1 - Math.min(Math.max(share, 0), 1) * (TALL - 2)
}
const line = (curve: readonly number[]) =>
  curve.map((v, i) => `${((i / (curve.length - 1)) * WIDE).toFixed(1)},${y(v).toFixed(1)}`).join(' ')
</script>

<template>
  <table class="ruled">
    <thead>
      <tr>
        <th>full to empty</th>
        <th>shaper</th>
        <th class="number">runs</th>
        <th class="number wide">lasts</th>
        <th class="number wide">in the drawer</th>
        <th class="number wide">heat</th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="option in options"
        :key="option.name"
        :class="{ here: option.name === chosen }"
        @click="emit('pick', option.name)"
      >
        <td class="curve">
          <svg :width="WIDE" :height="TALL" aria-hidden="true">
            <rect
              :y="y(window.v_abs_max)"
              :width="WIDE"
              :height="y(window.v_run_min) - y(window.v_abs_max)"
              class="works"
            />
            <polyline :points="line(option.curve)" />
          </svg>
        </td>
        <td>
          <button type="button" class="bare" :aria-pressed="option.name === chosen">
            <LevelMark :level="option.level" :size="11" /> {{ option.name }}
          </button>
          <small>{{ option.reason }}</small>
        </td>
        <td class="number">{{ option.run_hours ? duration(option.run_hours) : 'never' }}</td>
        <td class="number wide">{{ option.days ? days(option.days) : '' }}</td>
        <td class="number wide">{{ days(option.standby_days) }}</td>
        <td
          class="number wide"
          :title="`${volts(option.gadget_v_max)} to ${volts(option.gadget_v_min)} at the gadget`"
        >
          {{ option.heat_w >= 0.001 ? `${plain(option.heat_w * 1000, 2)} mW` : '' }}
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
tbody tr {
  cursor: pointer;
}
tbody tr:hover {
  background: var(--sunk);
}
tr.here {
  background: var(--copperwash);
}
tr.here button {
  font-weight: 600;
}
.curve svg {
  display: block;
}
.works {
  fill: var(--band);
  opacity: 0.5;
}
polyline {
  fill: none;
  stroke: var(--copper);
  stroke-width: 1.8;
}
small {
  display: block;
  color: var(--ink2);
  font-size: 12.5px;
  line-height: 1.3;
}
@media (max-width: 860px) {
  .wide,
  .curve,
  thead th:first-child {
    display: none;
  }
}
</style>
