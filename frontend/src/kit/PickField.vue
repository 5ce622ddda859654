<script setup lang="ts" generic="T extends string | number">
/** One of several, where nothing of the document is behind it. The label is read out; `shown` puts it beside. */
import { useId } from 'vue'

import OneOf from '@/kit/OneOf.vue'

const { id = useId() } = defineProps<{
  label: string
  id?: string
  options: readonly { value: T; label: string; detail?: string }[]
  shown?: boolean
  empty?: string
}>()
const value = defineModel<T>({ required: true })
function pick(picked: T | null): void {
  if (picked !== null) value.value = picked
}
</script>

<template>
  <span class="pick inline-flex items-center gap-8 min-w-0">
    <label v-if="shown" :for="id">{{ label }}</label>
    <OneOf
      :id="id"
      :model-value="value"
      :label="label"
      :options="options"
      :empty="empty"
      @update:model-value="pick"
    />
  </span>
</template>

<style scoped>
.one-of {
  min-width: 150px;
}
</style>
