<script setup lang="ts" generic="T extends string | number">
/** One of several, told in a word: the list is the browser's own, which a phone, a keyboard and a reader each know. */
import { computed } from 'vue'

const props = defineProps<{
  id: string
  label: string
  options: readonly { value: T; label: string; detail?: string }[]
  /** What stands there while nothing is chosen. */
  empty?: string
  path?: string
}>()
const value = defineModel<T | null>({ required: true })

const at = computed(() => props.options.findIndex((one) => one.value === value.value))
function choose(index: number): void {
  value.value = props.options[index]?.value ?? null
}
</script>

<template>
  <span class="one-of">
    <span class="told" aria-hidden="true">{{ options[at]?.label ?? empty ?? '' }}</span>
    <select
      :id="id"
      :value="at"
      :aria-label="label"
      :title="options[at]?.detail"
      :data-path="path"
      @change="choose(Number(($event.target as HTMLSelectElement).value))"
    >
      <option v-if="empty !== undefined || at < 0" :value="-1">{{ empty }}</option>
      <option v-for="(one, index) in options" :key="one.value" :value="index">
        {{ one.detail ? `${one.label}: ${one.detail}` : one.label }}
      </option>
    </select>
  </span>
</template>

<style scoped>
/* The word is ours, and the list lies over it unseen: it may tell more of each than the box has room for. */
.one-of {
  position: relative;
  display: flex;
  flex: 1;
  align-items: center;
  min-width: 0;
  height: 30px;
  border: 1px solid var(--line2);
  border-right: 4px double var(--copper);
  border-radius: 3px;
  background: var(--sheet);
}
.one-of:focus-within {
  border-color: var(--copper);
  outline: 2px solid var(--copperwash);
}
.one-of:hover {
  border-color: var(--copper);
}
.one-of::after {
  padding: 0 8px 6px 0;
  color: var(--copper);
  content: '…';
}
.told {
  flex: 1;
  padding: 0 6px 0 10px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
select {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  color: var(--ink);
  background: var(--sheet);
  font: inherit;
  opacity: 0;
  cursor: pointer;
}
@media (max-width: 860px) {
  .one-of {
    height: 44px;
  }
}
</style>
