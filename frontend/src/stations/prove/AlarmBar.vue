<script setup lang="ts">
/** Limits that were passed: large, in the window's title, as a notification, and as a sound that can be muted. */
import { computed } from 'vue'

import type { Alarm } from '@/api/client'
import { useAlarm } from '@/stations/prove/useAlarm'
import { duration } from '@/format'

const props = defineProps<{
  alarms: readonly Alarm[]
  /** Offers to notify, while there is nothing to notify of. */
  offer?: boolean
}>()
const { muted, mayNotify, askToNotify } = useAlarm(computed(() => props.alarms[0]?.says ?? ''))
</script>

<template>
  <div v-if="alarms.length" class="alarm" role="alert">
    <p v-for="alarm in alarms" :key="alarm.code">
      <b>{{ alarm.says }}</b>
      <span class="text-ink2 text-body">after {{ duration(alarm.minutes / 60) }}</span>
    </p>
    <button
      type="button"
      class="bare min-h-36 ml-auto text-ink text-body font-semibold"
      :aria-pressed="muted"
      @click="muted = !muted"
    >
      {{ muted ? 'Sound on' : 'Mute' }}
    </button>
  </div>
  <button v-else-if="offer && mayNotify" type="button" class="bare link-button" @click="askToNotify">
    Notify me of an alarm
  </button>
</template>

<style scoped>
.alarm {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 18px;
  margin: 10px 0;
  padding: 12px 16px;
  border: 2px solid var(--stop);
  border-left-width: 10px;
  background: var(--sheet);
  color: var(--stop);
  font-size: 18px;
}
</style>
