<script setup lang="ts">
/** A day of the gadget, use by use and asleep for the rest, and below it a few of its pulses to scale. */
import type { LoadDay } from '@/api/client'

defineProps<{ day: LoadDay }>()
const percent = (share: number) => `${share * 100}%`
</script>

<template>
  <figure class="m-0" aria-label="The load as it is lived">
    <div class="bar" aria-hidden="true">
      <span
        v-for="part in day.parts"
        :key="part.name"
        class="use"
        :style="{ left: percent(part.starts_at), width: percent(part.share) }"
      />
    </div>
    <ul class="flex flex-wrap gap-x-16 gap-y-2 mt-4 mb-0 p-0 list-none text-small">
      <li v-for="part in day.parts" :key="part.name">
        <b>{{ part.name }}</b> {{ part.current_a.text
        }}<template v-if="part.pulses">, {{ part.pulses }}</template
        >, {{ part.hours.text }} a day
      </li>
      <li v-if="day.asleep_hours.value > 0" class="text-ink2">
        asleep {{ day.asleep_a.text }}, {{ day.asleep_hours.text }} a day
      </li>
    </ul>
    <template v-if="day.strip">
      <div class="pulses" aria-hidden="true">
        <span
          v-for="pulse in day.strip.pulses"
          :key="pulse.at"
          class="pulse"
          :style="{ left: percent(pulse.starts_at), width: percent(pulse.ends_at - pulse.starts_at) }"
        />
        <span class="says left-[10px] top-0">{{ day.strip.says }}</span>
        <span class="asleep">{{ day.asleep_a.text }} asleep</span>
      </div>
      <div class="axis" aria-hidden="true">
        <span v-for="pulse in day.strip.pulses" :key="pulse.at" :style="{ left: percent(pulse.starts_at) }">{{
          pulse.at
        }}</span>
      </div>
    </template>
    <figcaption class="text-small text-ink2 mt-4">
      {{ day.average_a.text }} on average, {{ day.daily_ah.text }} a day.
    </figcaption>
  </figure>
</template>

<style scoped>
.bar {
  position: relative;
  height: 13px;
  border-bottom: 3px solid var(--lithium);
  background: var(--sunk);
}
.use,
.pulse {
  position: absolute;
  bottom: 0;
  min-width: 2px;
  background: var(--copper);
}
.use {
  height: 100%;
  border-right: 1px solid var(--sheet);
}
.pulses {
  position: relative;
  height: 42px;
  margin-top: 10px;
  border-bottom: 3px solid var(--lithium);
}
.pulse {
  height: 38px;
}
.says,
.asleep {
  position: absolute;
  padding: 0 4px;
  background: var(--paper);
  font-size: 12.5px;
}
.asleep {
  bottom: 2px;
  left: 28%;
  color: var(--ink2);
}
.axis {
  position: relative;
  height: 18px;
  color: var(--ink2);
  font-size: 12px;
}
.axis span {
  position: absolute;
}
</style>
