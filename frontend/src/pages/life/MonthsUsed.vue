<script setup lang="ts">
/** The months of the year in which it is used, each to be pressed on and off. */
import { computed } from 'vue'

import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

const PATH = 'gadget.shell.months_used'
const conversion = useConversion()
const reference = useReference()
const months = computed(() => reference.tables?.months ?? [])
const all = computed(() => months.value.map((_, at) => at + 1))
const used = computed(() => (conversion.document?.gadget.shell?.months_used ?? all.value).map(Number))

function toggle(month: number): void {
  const now = used.value.includes(month)
    ? used.value.filter((one) => one !== month)
    : [...used.value, month].sort((a, b) => a - b)
  conversion.edit(PATH, now.length === all.value.length ? null : now)
}
</script>

<template>
  <fieldset class="months">
    <legend class="mb-4 p-0">Used in</legend>
    <button
      v-for="(name, at) in months"
      :key="name"
      type="button"
      :title="name"
      :aria-label="name"
      :aria-pressed="used.includes(at + 1)"
      @click="toggle(at + 1)"
    >
      {{ name[0] }}
    </button>
    <p v-if="conversion.refusalAt(PATH)" class="error-line" role="alert">{{ conversion.refusalAt(PATH) }}</p>
  </fieldset>
</template>

<style scoped>
.months {
  display: grid;
  grid-template-columns: repeat(12, minmax(0, 1fr));
  gap: 3px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend,
.error-line {
  grid-column: 1 / -1;
}
button {
  min-height: 26px;
  padding: 0;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: none;
  color: var(--ink2);
  cursor: pointer;
}
button[aria-pressed='true'] {
  border-color: var(--copper);
  background: var(--copperwash);
  color: var(--copper);
  font-weight: 600;
}
@media (max-width: 860px) {
  .months {
    grid-template-columns: repeat(6, minmax(0, 1fr));
  }
  button {
    min-height: 44px;
  }
}
</style>
