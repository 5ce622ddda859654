<script setup lang="ts">
/** A countdown that belongs to a step. It is kept by the moment it ends, so a reload does not lose it. */
import { useIntervalFn, useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'

const props = defineProps<{ name: string; seconds: number }>()
const ends = useLocalStorage<number>(`pocket-spark-timer-${props.name}`, 0)
const now = ref(Date.now())
useIntervalFn(() => (now.value = Date.now()), 500)

const left = computed(() => Math.ceil((ends.value - now.value) / 1000))
const words = computed(() => {
  const seconds = Math.max(left.value, 0)
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
})
function start(): void {
  now.value = Date.now()
  ends.value = now.value + props.seconds * 1000
}
</script>

<template>
  <span class="inline-flex items-center gap-12 text-large">
    <template v-if="ends && left > 0">
      <b class="font-mono text-title" role="timer">{{ words }}</b> to go
      <button type="button" class="bare min-h-44 text-copper font-semibold" @click="ends = 0">Stop</button>
    </template>
    <b v-else-if="ends" role="status" class="font-mono text-title text-caution">Time: read it now</b>
    <button
      v-if="!ends || left <= 0"
      type="button"
      class="bare min-h-44 text-copper font-semibold"
      @click="start"
    >
      Start {{ Math.round(seconds / 60) }} min
    </button>
  </span>
</template>
