<script setup lang="ts">
/** A run as it comes: its alarms, the figures of now, what happened on the way, and the curve so far. */
import { computed } from 'vue'

import LiveChart from '@/stations/prove/LiveChart.vue'
import AlarmBar from '@/stations/prove/AlarmBar.vue'
import type { LiveRunInHand } from '@/stations/prove/useLiveRun'
import { amps, duration, volts } from '@/format'
import { useUnits } from '@/composables/useUnits'
import { t } from '@/words'

const { celsiusText } = useUnits()
const props = defineProps<{ live: LiveRunInHand }>()
const emit = defineEmits<{ log: [name: string, csv: string] }>()

const last = computed(() => props.live.rows.value.at(-1))
const state = computed(() => {
  const { failure, cutShort, state, run } = props.live
  if (failure.value)
    return t('It broke off: {failure}. What came before is kept.', { failure: failure.value })
  if (cutShort.value) return t('Pocket Spark was started anew meanwhile: this had been written until then')
  return state.value === 'finished' ? t('the run has ended') : run.value?.name
})
async function finished(): Promise<void> {
  const csv = await props.live.csv()
  if (csv) emit('log', `${props.live.run.value!.name}.csv`, csv)
}
defineExpose({ finished })
</script>

<template>
  <AlarmBar :alarms="live.alarms.value" />
  <template v-if="live.run.value">
    <p v-if="last" class="now flex flex-wrap items-baseline gap-y-4 gap-x-20 mt-10" role="status">
      <b>{{ duration(last[0] / 3600) }}</b> <b>{{ volts(last[1]) }}</b> <b>{{ amps(last[2]) }}</b>
      <b v-if="last[3] != null">{{ celsiusText(last[3]) }}</b>
      <span class="quiet">{{ state }}</span>
      <template v-if="live.state.value === 'finished'">
        <button type="button" class="bare link-button" @click="finished">Read this log</button>
        <button type="button" class="bare link-button" @click="live.forget">Clear the bench</button>
      </template>
    </p>
    <p v-else class="quiet" role="status">
      {{ live.state.value === 'finished' ? state : 'Waiting for the first reading …' }}
    </p>
    <p v-for="remark in live.remarks.value" :key="remark" class="quiet small">{{ remark }}</p>
    <LiveChart v-if="last" :rows="live.rows.value" :seconds="live.run.value.seconds" />
  </template>
</template>

<style scoped>
.now b {
  font: 600 19px var(--mono);
}
</style>
