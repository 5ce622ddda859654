<script setup lang="ts">
/** What has happened to one cell of the inventory, newest first; changed readings write themselves in. */
import { computed, ref } from 'vue'

import type { OwnPart } from '@/api/client'
import { useInventory } from '@/stores/inventory'

const props = defineProps<{ part: OwnPart }>()
const inventory = useInventory()
const text = ref('')
const lines = computed(() => [...(props.part.cell?.intake?.history ?? [])].reverse())

async function write(): Promise<void> {
  const { intake } = props.part.cell!
  const line = { day: new Date().toISOString().slice(0, 10), text: text.value.trim() }
  const body = { ...props.part.cell, intake: { ...intake, history: [...(intake?.history ?? []), line] } }
  if (await inventory.change(props.part, { body }, props.part.stock)) text.value = ''
}
</script>

<template>
  <details class="history">
    <summary>History{{ lines.length ? `, ${lines.length}` : '' }}</summary>
    <ol v-if="lines.length">
      <li v-for="(line, index) in lines" :key="index">
        <span class="quiet">{{ line.day }}</span> {{ line.text }}
      </li>
    </ol>
    <form @submit.prevent="write">
      <input
        v-model="text"
        :aria-label="`What happened to ${part.cell?.name}`"
        placeholder="charged to 3.8 V for storing"
        maxlength="100"
      />
      <ElButton native-type="submit" size="small" :disabled="!text.trim()">Write it down</ElButton>
    </form>
  </details>
</template>

<style scoped>
.history {
  grid-column: 2 / -1;
  font-size: 13px;
}
summary {
  width: max-content;
  color: var(--copper);
  font-weight: 600;
  cursor: pointer;
}
ol {
  margin: 4px 0;
  padding: 0;
  list-style: none;
}
form {
  display: flex;
  gap: 8px;
  max-width: 460px;
  margin-top: 4px;
}
input {
  flex: 1;
  min-width: 0;
  height: 26px;
  padding: 0 6px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font: 13px var(--sans);
}
@media (max-width: 860px) {
  .history {
    grid-column: 1 / -1;
  }
}
</style>
