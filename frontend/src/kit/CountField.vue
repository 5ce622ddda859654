<script setup lang="ts">
/** How many of something: a whole number of the document, stepped by its buttons or typed. */
import { computed, useId } from 'vue'

import { valueAt } from '@/document'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ path: string; label: string; least: number; most: number; name?: string }>()
const conversion = useConversion()
const id = useId()
const value = computed(() => (valueAt(conversion.document, props.path) as number | undefined) ?? props.least)
</script>

<template>
  <span class="inline-flex items-center justify-between gap-8">
    <label :for="id">{{ label }}</label>
    <ElInputNumber
      :id="id"
      :model-value="value"
      :min="least"
      :max="most"
      size="small"
      :aria-label="name ?? label"
      @update:model-value="conversion.edit(path, $event ?? least)"
    />
  </span>
</template>

<style scoped>
span :deep(.el-input-number) {
  width: 84px;
}
</style>
