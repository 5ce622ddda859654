<script setup lang="ts">
/** One measured thing of a list: its head, a way to strike it out, and its three-figure measures. */
import QuantityField from '@/kit/QuantityField.vue'

defineProps<{
  name: string
  unit: string
  /** The list's place of each triple, and what its figures are called. */
  measures: { path: string; labels: readonly string[] }[]
}>()
defineEmits<{ remove: [] }>()
</script>

<template>
  <div class="border-b border-line">
    <div class="flex items-start gap-8 px-0 py-3">
      <div class="flex flex-1 flex-wrap items-center gap-y-2 gap-x-8">
        <slot>
          <span class="font-semibold">{{ name }}</span>
        </slot>
      </div>
      <button
        type="button"
        class="bare w-24 text-ink2 text-large text-center"
        :aria-label="`Remove ${name}`"
        @click="$emit('remove')"
      >
        ×
      </button>
    </div>
    <div class="triple grid grid-cols-3 gap-y-6 gap-x-12 px-0 py-6">
      <template v-for="measure in measures" :key="measure.path">
        <QuantityField
          v-for="(label, i) in measure.labels"
          :key="label"
          :path="`${measure.path}.${i}`"
          :unit="unit"
          :label="label"
          no-basis
        />
      </template>
    </div>
  </div>
</template>

<style scoped>
.triple :deep(input) {
  width: 52px;
}
.triple :deep(.no-mark) {
  display: none;
}
.triple :deep(.quantity) {
  grid-template-columns: minmax(0, max-content);
  gap: 2px;
}
.triple :deep(label) {
  color: var(--ink2);
  font-size: 13px;
}
</style>
