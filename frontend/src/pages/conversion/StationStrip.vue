<script setup lang="ts">
/** The stations in the order makers work, each with its gravest mark; on a phone a bar at the thumb, findings with it. */
import type { Level, Station } from '@/api/client'
import LevelMark from '@/kit/LevelMark.vue'
import { useReference } from '@/stores/reference'

defineProps<{
  first: string
  stations: string[]
  current: Station
  levels?: Record<string, Level>
  /** The gravest of all findings. */
  worst?: Level
}>()
const reference = useReference()
const emit = defineEmits<{ go: [station: Station]; findings: [] }>()
</script>

<template>
  <div class="strip border-r border-line">
    <nav class="flex flex-col px-0 py-8 narrow:contents" aria-label="Stations">
      <button
        v-for="(station, index) in [first, ...stations]"
        :key="station"
        class="place flex items-center gap-10 px-10 py-8 border-l-3 border-transparent hover:bg-sunk current:border-copper current:bg-sheet current:font-bold"
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
    <button type="button" class="bare place findings-toggle" @click="emit('findings')">
      <span class="name">Findings</span>
      <LevelMark v-if="worst" :level="worst" :size="12" />
    </button>
  </div>
</template>

<style scoped>
.findings-toggle {
  display: none;
}
@media (max-width: 860px) {
  .strip {
    position: fixed;
    right: 0;
    bottom: 0;
    left: 0;
    z-index: 10;
    display: grid;
    grid-template-columns: repeat(5, minmax(0, 1fr));
    border-top: 1px solid var(--line2);
    border-right: 0;
    background: var(--paper);
    padding-bottom: env(safe-area-inset-bottom);
  }
  .place {
    display: flex;
    align-items: center;
    justify-content: center;
    gap: 4px;
    min-height: 44px;
    padding: 0 2px;
    border-top: 3px solid transparent;
    border-left: 0;
    font-size: 13px;
  }
  .place.is-current {
    border-top-color: var(--copper);
  }
  .findings-toggle {
    background: var(--sheet);
    font-weight: 600;
  }
}
</style>
