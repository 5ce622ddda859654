<script setup lang="ts">
/** The stations in the order makers work, each with its gravest mark. */
import type { Level, Station } from '@/api/client'
import LevelMark from '@/kit/LevelMark.vue'
import { useReference } from '@/stores/reference'

defineProps<{ first: string; stations: string[]; current: Station; levels?: Record<string, Level> }>()
const reference = useReference()
const emit = defineEmits<{ go: [station: Station] }>()
</script>

<template>
  <nav
    class="strip flex flex-col px-0 py-8 border-r border-line narrow:p-0 narrow:border-0 narrow:border-b narrow:border-line narrow:flex-row narrow:overflow-x-auto"
    aria-label="Stations"
  >
    <button
      v-for="(station, index) in [first, ...stations]"
      :key="station"
      class="flex items-center gap-10 px-10 py-8 border-l-3 border-transparent hover:bg-sunk current:border-copper current:bg-sheet current:font-bold narrow:gap-6 narrow:border-b-3 narrow:border-l-0 narrow:border-transparent narrow:flex-1 narrow:justify-center narrow:min-h-44 narrow:current:border-copper"
      type="button"
      :class="['bare', { 'is-current': station === current }]"
      :aria-current="station === current ? 'page' : undefined"
      @click="emit('go', station)"
    >
      <span class="w-10 text-ink3 text-fine narrow:hidden" aria-hidden="true">{{ index }}</span>
      <span class="name flex-1 narrow:flex-none">{{
        station === first ? 'Verdict' : reference.labelOf(reference.tables!.stations, station)
      }}</span>
      <LevelMark v-if="levels?.[station]" :level="levels[station]!" :size="12" />
    </button>
  </nav>
</template>
