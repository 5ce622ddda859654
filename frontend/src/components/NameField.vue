<script setup lang="ts">
/** A name of the maker's own, typed in place. */
import { valueAt } from '@/document'
import { useConversion } from '@/stores/conversion'

defineProps<{ path: string; label: string }>()
const conversion = useConversion()
</script>

<template>
  <input
    class="name"
    :value="valueAt(conversion.document, path)"
    :aria-label="label"
    maxlength="60"
    @change="conversion.edit(path, ($event.target as HTMLInputElement).value)"
  />
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
.name:hover {
  border-color: var(--line2);
}
</style>
