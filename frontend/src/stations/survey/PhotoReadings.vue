<script setup lang="ts">
/** What was read off a photograph and noted on it, each to be used or dropped. */
import type { StoredPhoto } from '@/api/client'
import { useUnits } from '@/composables/useUnits'
import MoreActs from '@/kit/MoreActs.vue'
import { TARGETS } from '@/stations/survey/photoTools'
import { useReadLength } from '@/stations/survey/useReadLength'

defineProps<{ photo: StoredPhoto }>()
const emit = defineEmits<{ drop: [kind: 'lengths' | 'remarks', index: number] }>()
const { bare, lengthText } = useUnits()
const use = useReadLength()
</script>

<template>
  <ul v-if="photo.lengths.length" class="m-0 p-0 list-none">
    <li
      v-for="(length, index) in photo.lengths"
      :key="length.name"
      class="flex items-center justify-between gap-8 px-0 py-3 border-b border-line"
    >
      <span class="flex-1"
        ><b>{{ lengthText(length.mm) }}</b> {{ length.name }}
        <small>± {{ bare(length.give_or_take_mm) }}</small></span
      >
      <MoreActs :acts="TARGETS" class="bare to" @act="(path) => use(length.mm, path)">use as ▾</MoreActs>
      <button
        type="button"
        class="bare w-20 text-ink2 text-center"
        :aria-label="`Remove ${length.name}`"
        @click="emit('drop', 'lengths', index)"
      >
        ×
      </button>
    </li>
  </ul>
  <ul v-if="photo.marks.remarks?.length" class="m-0 p-0 list-none">
    <li
      v-for="(remark, index) in photo.marks.remarks"
      :key="remark.text"
      class="flex items-center justify-between gap-8 px-0 py-3 border-b border-line"
    >
      <span class="flex-1">{{ remark.text }}</span>
      <button
        type="button"
        class="bare w-20 text-ink2 text-center"
        :aria-label="`Remove ${remark.text}`"
        @click="emit('drop', 'remarks', index)"
      >
        ×
      </button>
    </li>
  </ul>
</template>

<style scoped>
.to {
  color: var(--copper);
  font-weight: 600;
}
</style>
