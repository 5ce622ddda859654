<script setup lang="ts">
/** One quantity of the document: takes engineering input, shows its unit and basis, explains what it cannot take. */
import { computed, useId } from 'vue'

import type { Basis } from '@/api/client'
import BasisMark from '@/kit/BasisMark.vue'
import FieldLabel from '@/kit/FieldLabel.vue'
import { useQuantity } from '@/composables/useQuantity'

const props = defineProps<{
  path: string
  unit: string
  label: string
  placeholder?: string
  /** What an empty field counts as. */
  empty?: Basis
  /** For rows of a table: the label is read out, not shown. */
  bare?: boolean
  noBasis?: boolean
}>()

const id = useId()
const {
  text,
  unit: shownUnit,
  sentence,
  type,
  settle,
  nudge,
  typed,
} = useQuantity(
  () => props.path,
  () => props.unit,
)
const describedBy = computed(() => (sentence.value ? `${id}-error` : undefined))
</script>

<template>
  <div :class="['quantity', { bare }]">
    <FieldLabel :for="id" :path="path" :hidden="bare">{{ label }}</FieldLabel>
    <span :class="['box', { refused: sentence }]">
      <input
        :id="id"
        :value="text"
        :placeholder="placeholder"
        :aria-invalid="!!sentence"
        :aria-describedby="describedBy"
        :data-path="path"
        :data-typed="typed !== undefined"
        autocomplete="off"
        spellcheck="false"
        size="7"
        @input="type(($event.target as HTMLInputElement).value)"
        @change="settle"
        @blur="settle"
        @keydown.up.prevent="void nudge(1)"
        @keydown.down.prevent="void nudge(-1)"
        @keydown.enter="settle"
      />
      <span class="min-w-38 pr-8 pl-4 py-0 text-ink2 text-small">{{ shownUnit }}</span>
    </span>
    <BasisMark v-if="!noBasis" :path="path" :empty="empty" :short="bare" />
    <span v-else-if="!bare" class="no-mark w-62" />
    <p v-if="sentence" :id="`${id}-error`" class="error-line" role="alert">{{ sentence }}</p>
  </div>
</template>

<style scoped>
.quantity {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  align-items: center;
  gap: 4px 8px;
}
.quantity.bare {
  grid-template-columns: auto auto 1fr;
}
.box {
  display: inline-flex;
  align-items: center;
  height: 28px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
}
.box:focus-within {
  border-color: var(--copper);
  outline: 2px solid var(--copperwash);
}
.box.refused {
  border-color: var(--stop);
}
input {
  width: 76px;
  height: 100%;
  padding: 0 2px 0 8px;
  border: 0;
  background: none;
  color: var(--ink);
  font: 14px var(--mono);
  text-align: right;
  outline: none;
}
input::placeholder {
  color: var(--ink3);
  font-style: italic;
}
</style>
