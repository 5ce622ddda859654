<script setup lang="ts">
/** A yes or no of the document. */
import { computed } from 'vue'

import { valueAt } from '@/document'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ path: string; label: string }>()
const conversion = useConversion()
const value = computed(() => valueAt(conversion.document, props.path) === true)
</script>

<template>
  <ElCheckbox
    :model-value="value"
    :data-path="path"
    @update:model-value="conversion.edit(path, $event === true)"
    >{{ label }}</ElCheckbox
  >
</template>
