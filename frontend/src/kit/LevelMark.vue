<script setup lang="ts">
/** The mark of a level: told by its shape, and by its colour. */
import type { Level } from '@/api/client'
import { t } from '@/words'

withDefaults(defineProps<{ level: Level; size?: number }>(), { size: 14 })
const NAMES: Record<Level, string> = {
  stop: t('stop'),
  caution: t('caution'),
  note: t('note'),
  pass: t('passed'),
}
</script>

<template>
  <svg
    :class="['mark', level]"
    :width="size"
    :height="size"
    viewBox="0 0 14 14"
    role="img"
    :aria-label="NAMES[level]"
  >
    <template v-if="level === 'stop'">
      <rect x="0.5" y="0.5" width="13" height="13" fill="currentColor" />
      <rect x="3.5" y="5.6" width="7" height="2.8" class="hole" />
    </template>
    <path v-else-if="level === 'caution'" d="M7 0 14 7 7 14 0 7z" fill="currentColor" />
    <circle
      v-else-if="level === 'note'"
      cx="7"
      cy="7"
      r="5"
      fill="none"
      stroke="currentColor"
      stroke-width="2.4"
    />
    <path v-else d="M1 7.6 5 11.8 13.2 1.8" fill="none" stroke="currentColor" stroke-width="2.4" />
  </svg>
</template>

<style scoped>
.mark {
  flex: none;
}
.stop {
  color: var(--stop);
}
.caution {
  color: var(--caution);
}
.note {
  color: var(--note);
}
.pass {
  color: var(--pass);
}
.hole {
  fill: var(--sheet);
}
</style>
