<script setup lang="ts">
/** The stations in the order makers work, each with its gravest mark. */
import type { Level, Station } from '@/api/client'
import LevelMark from '@/kit/LevelMark.vue'
import { useReference } from '@/stores/reference'

defineProps<{ stations: string[]; current: Station; levels?: Record<string, Level> }>()
const reference = useReference()
const emit = defineEmits<{ go: [station: Station] }>()
</script>

<template>
  <nav class="strip" aria-label="Stations">
    <button
      v-for="(station, index) in stations"
      :key="station"
      type="button"
      :class="['bare', { 'is-current': station === current }]"
      :aria-current="station === current ? 'page' : undefined"
      @click="emit('go', station)"
    >
      <span class="key" aria-hidden="true">{{ index + 1 }}</span>
      <span class="name">{{ reference.labelOf(reference.tables!.stations, station) }}</span>
      <LevelMark v-if="levels?.[station]" :level="levels[station]!" :size="12" />
    </button>
  </nav>
</template>

<style scoped>
.strip {
  display: flex;
  flex-direction: column;
  padding: 8px 0;
  border-right: 1px solid var(--line);
}
.strip button {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 8px 10px 8px 10px;
  border-left: 3px solid transparent;
}
.strip button:hover {
  background: var(--sunk);
}
.strip button.is-current {
  border-left-color: var(--copper);
  background: var(--sheet);
  font-weight: 700;
}
.key {
  width: 10px;
  color: var(--ink3);
  font-size: 12px;
}
.name {
  flex: 1;
}
@media (max-width: 860px) {
  .strip {
    flex-direction: row;
    padding: 0;
    border: 0;
    border-bottom: 1px solid var(--line);
    overflow-x: auto;
  }
  .strip button {
    flex: 1;
    gap: 6px;
    justify-content: center;
    min-height: 44px;
    border-left: 0;
    border-bottom: 3px solid transparent;
  }
  .strip button.is-current {
    border-bottom-color: var(--copper);
  }
  .key {
    display: none;
  }
  .name {
    flex: none;
  }
}
</style>
