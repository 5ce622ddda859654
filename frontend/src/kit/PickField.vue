<script setup lang="ts" generic="T extends string | number">
/** One of several, where nothing of the document is behind it. The label is read out; `shown` puts it beside. */
import { useId } from 'vue'

const { id = useId() } = defineProps<{
  label: string
  id?: string
  options: readonly { value: T; label: string; detail?: string }[]
  shown?: boolean
  empty?: string
}>()
const value = defineModel<T>({ required: true })
</script>

<template>
  <span class="pick inline-flex items-center gap-8 min-w-0">
    <label v-if="shown" :for="id">{{ label }}</label>
    <ElSelect
      :id="id"
      v-model="value"
      :aria-label="label"
      :placeholder="empty ?? ''"
      :empty-values="empty === undefined ? [null, undefined] : ['', null, undefined]"
    >
      <ElOption v-for="one in options" :key="one.value" :value="one.value" :label="one.label">
        {{ one.label }}<small v-if="one.detail">{{ one.detail }}</small>
      </ElOption>
    </ElSelect>
  </span>
</template>

<style scoped>
.el-select {
  min-width: 150px;
  flex: 1;
}
</style>
