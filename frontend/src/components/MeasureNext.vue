<script setup lang="ts">
/** Which number is worth an instrument next, and what it would change. */
import { computed } from 'vue'

import { api, type Station } from '@/api/client'
import { useQuestion } from '@/composables/useQuestion'

const emit = defineEmits<{ go: [station: Station] }>()
const readings = useQuestion(async (body) => await api.POST('/api/questions/measure-next', { body }))
const first = computed(() => readings.value?.slice(0, 3) ?? [])
</script>

<template>
  <section v-if="first.length" class="next" aria-label="Measure next">
    <h2>Measure next</h2>
    <ol>
      <li v-for="reading in first" :key="reading.path">
        <button type="button" class="bare" @click="emit('go', reading.station)">
          {{ reading.headline }}
        </button>
        <p v-for="change in reading.changes" :key="change" class="change">{{ change }}</p>
        <p class="quiet">{{ reading.how }}</p>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.next {
  margin-top: 14px;
  padding: 10px 12px;
  background: var(--copperwash);
  border-radius: 3px;
}
h2 {
  color: var(--copper);
}
ol {
  margin: 4px 0 0;
  padding: 0;
  list-style: none;
  font-size: 13px;
  line-height: 1.4;
}
li + li {
  margin-top: 8px;
  padding-top: 8px;
  border-top: 1px solid var(--line2);
}
button {
  line-height: 1.35;
}
button:hover {
  text-decoration: underline;
}
.change {
  margin-top: 2px;
  font-weight: 600;
}
.quiet {
  margin-top: 2px;
}
</style>
