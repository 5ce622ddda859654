<script setup lang="ts">
/** Every regulator tried in this build: the gadget's volts from full to empty on its window, how long, and what is thought of it. */
import { computed, ref } from 'vue'

import type { RegulatorOption, WindowSummary } from '@/api/client'
import { useMoney } from '@/composables/useMoney'
import LevelMark from '@/kit/LevelMark.vue'

const money = useMoney()
const props = defineProps<{ options: readonly RegulatorOption[]; window: WindowSummary; chosen: string }>()
const emit = defineEmits<{ pick: [name: string] }>()

/** The first ten that work, and what stands in the build; the rest is folded away. */
const FIRST = 10
const all = ref(false)
const few = computed(() =>
  props.options.filter(
    (option, place) => option.name === props.chosen || (place < FIRST && option.level !== 'stop'),
  ),
)
const folded = computed(() => props.options.length - few.value.length)
const shown = computed(() => (all.value ? props.options : few.value))

const WIDE = 92
const TALL = 34
/** Window and lithium band fill the picture; what lies far outside runs along its edge. */
const low = computed(() => Math.min(props.window.v_run_min.value, 3) - 0.2)
const high = computed(() => Math.max(props.window.v_abs_max.value, 4.2) + 0.2)
const y = (v: number) => {
  const share = (v - low.value) / (high.value - low.value)
  return TALL - 1 - Math.min(Math.max(share, 0), 1) * (TALL - 2)
}
/** Its light beside the volts, from none at the lower edge to half as much again as it was made for. */
const glow = (light: readonly number[]) =>
  light
    .map((share, i) => {
      const x = (i / (light.length - 1)) * WIDE
      return `${x.toFixed(1)},${(TALL - 1 - Math.min(share / 1.5, 1) * (TALL - 2)).toFixed(1)}`
    })
    .join(' ')
const line = (curve: readonly number[]) =>
  curve.map((v, i) => `${((i / (curve.length - 1)) * WIDE).toFixed(1)},${y(v).toFixed(1)}`).join(' ')
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Regulators to choose from">
    <table class="ruled">
      <thead>
        <tr>
          <th>full to empty</th>
          <th>regulator</th>
          <th class="number">hours of use</th>
          <th class="number wide">days as you use it</th>
          <th class="number wide">switched off, lasts</th>
          <th class="number wide">at gadget</th>
          <th class="number wide">unused</th>
          <th class="number wide">heat</th>
          <th class="number wide">price</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="option in shown"
          :key="option.name"
          class="cursor-pointer hover:bg-sunk current:bg-copperwash"
          :class="{ 'is-current': option.name === chosen }"
          @click="emit('pick', option.name)"
        >
          <td class="curve">
            <svg class="block" :width="WIDE" :height="TALL" aria-hidden="true">
              <rect
                :y="y(window.v_abs_max.value)"
                :width="WIDE"
                :height="y(window.v_run_min.value) - y(window.v_abs_max.value)"
                class="works"
              />
              <polyline :points="line(option.curve)" />
              <polyline v-if="option.light.length" class="light" :points="glow(option.light)" />
            </svg>
          </td>
          <td>
            <button type="button" class="bare" :aria-pressed="option.name === chosen">
              <LevelMark :level="option.level" :size="11" /> {{ option.called }}
            </button>
            <small class="block text-ink2 text-small leading-[1.3]">{{ option.reason }}</small>
          </td>
          <td class="number">{{ option.service_hours?.value ? option.service_hours.text : 'never' }}</td>
          <td class="number wide">{{ option.served_days ? option.served_days.text : '' }}</td>
          <td class="number wide">{{ option.standby_days.text }}</td>
          <td class="number wide">
            {{ option.gadget_v_max.text }}<br />{{ option.gadget_v_min.text
            }}<template v-if="option.light_half"><br />{{ option.light_half.text }} light</template>
          </td>
          <td class="number wide">
            {{ option.run_hours && option.unused.value > 0.005 ? option.unused.text : '' }}
          </td>
          <td
            class="number wide"
            :title="option.efficiency ? `${option.efficiency.text} efficient at half charge` : undefined"
          >
            {{ option.heat_w.value >= 0.001 ? option.heat_w.text : '' }}
          </td>
          <td class="number wide">{{ option.price === null ? '' : money(option.price) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
  <button
    v-if="folded"
    type="button"
    class="bare px-0 py-6 text-copper"
    :aria-expanded="all"
    @click="all = !all"
  >
    {{ all ? 'Show the best alone' : `Show all ${options.length}` }}
  </button>
</template>

<style scoped>
tr.is-current button {
  font-weight: 600;
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
polyline.light {
  stroke: var(--note);
  stroke-dasharray: 3 2;
}
@media (max-width: 860px) {
  .wide,
  .curve,
  thead th:first-child {
    display: none;
  }
}
</style>
