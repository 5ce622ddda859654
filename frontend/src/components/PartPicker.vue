<script setup lang="ts">
/** A list of parts with their key figures, one of which is in the build. */
import type { Part } from '@/api/client'

defineProps<{
  title: string
  parts: readonly Part[]
  chosen: string
  /** What stands for choosing none; left out where one must be chosen. */
  none?: string
  describe: (part: Part) => string
}>()
const emit = defineEmits<{ pick: [part: Part | undefined] }>()
</script>

<template>
  <section :aria-label="title">
    <h2>{{ title }}</h2>
    <ul>
      <li v-if="none">
        <button
          type="button"
          :class="['bare', { 'is-current': !chosen }]"
          :aria-pressed="!chosen"
          @click="emit('pick', undefined)"
        >
          <span>{{ none }}</span>
        </button>
      </li>
      <li v-for="part in parts" :key="part.id">
        <button
          type="button"
          :class="['bare', { 'is-current': part.board!.name === chosen }]"
          :aria-pressed="part.board!.name === chosen"
          @click="emit('pick', part)"
        >
          <span>{{ part.board!.name }}</span>
          <small>{{ describe(part) }}</small>
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
h2 {
  margin: 14px 0 4px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  border-bottom: 1px solid var(--line);
}
button {
  display: block;
  width: 100%;
  padding: 5px 8px;
  border-left: 3px solid transparent;
  line-height: 1.3;
}
button:hover {
  background: var(--sunk);
}
button.is-current {
  border-left-color: var(--copper);
  background: var(--copperwash);
  font-weight: 600;
}
small {
  display: block;
  color: var(--ink2);
  font-weight: 400;
  font-size: 12.5px;
}
</style>
