<script setup lang="ts">
/** A name of the maker's own, typed in place. */
import { computed } from 'vue'

import { useTypedText } from '@/composables/useTypedText'
import { useConversion } from '@/stores/conversion'

const props = withDefaults(
  defineProps<{ path: string; label: string; placeholder?: string; most?: number }>(),
  { placeholder: '', most: 60 },
)
const conversion = useConversion()
const sentence = computed(() => conversion.refusalAt(props.path))
const { text, type, settle } = useTypedText(() => props.path)
</script>

<template>
  <input
    class="name"
    :value="text"
    :aria-label="label"
    :placeholder="placeholder"
    :maxlength="most"
    :aria-invalid="!!sentence"
    @input="type"
    @change="settle"
  />
  <span v-if="sentence" class="error-line" role="alert">{{ sentence }}</span>
</template>

<style scoped>
.name {
  flex: 1;
  min-width: 80px;
  padding: 3px 5px;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  color: var(--ink);
  font: 600 14px var(--sans);
}
.name[aria-invalid='true'] {
  border-color: var(--stop);
}
.name:hover {
  border-color: var(--line2);
}
</style>
