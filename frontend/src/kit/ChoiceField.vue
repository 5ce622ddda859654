<script setup lang="ts">
/** A labelled choice among the values a field may take, in the words of the core. */
import { computed, useId } from 'vue'

import type { Choice } from '@/api/client'
import { valueAt } from '@/document'
import FieldLabel from '@/kit/FieldLabel.vue'
import OneOf from '@/kit/OneOf.vue'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{
  path: string
  label: string
  choices: Choice[]
  bare?: boolean
  empty?: string
}>()
const conversion = useConversion()
const id = useId()
const value = computed(() => valueAt(conversion.document, props.path) as string | null)
const sentence = computed(() => conversion.refusalAt(props.path))
</script>

<template>
  <div :class="['choice', { bare }]">
    <FieldLabel :for="id" :path="path" :hidden="bare">{{ label }}</FieldLabel>
    <OneOf
      :id="id"
      :model-value="value"
      :label="label"
      :options="choices"
      :empty="empty"
      :path="path"
      @update:model-value="conversion.edit(path, $event || null)"
    />
    <p v-if="sentence" class="error-line" role="alert">{{ sentence }}</p>
  </div>
</template>

<style scoped>
.choice {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 200px;
  align-items: center;
  gap: 4px 8px;
}
.choice.bare {
  grid-template-columns: minmax(130px, 1fr);
}
</style>
