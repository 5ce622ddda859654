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
  <div class="thing">
    <div class="line">
      <slot>
        <span class="grow">{{ name }}</span>
      </slot>
      <button type="button" class="bare drop" :aria-label="`Remove ${name}`" @click="$emit('remove')">
        ×
      </button>
    </div>
    <div class="triple">
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
.thing {
  border-bottom: 1px solid var(--line);
}
.line {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 3px 0;
}
.grow {
  flex: 1;
  font-weight: 600;
}
.drop {
  width: 24px;
  color: var(--ink2);
  font-size: 17px;
  text-align: center;
}
.triple {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px 12px;
  padding: 6px 0;
}
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
