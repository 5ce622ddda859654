<script setup lang="ts">
/** A list of parts with their key figures, one of which is in the build. */
import type { Part } from '@/api/client'

defineProps<{
  title: string
  parts: readonly Part[]
  chosen: string
  /** What stands for choosing none; left out where one must be chosen. */
  none?: string
}>()
const emit = defineEmits<{ pick: [part: Part | undefined] }>()
</script>

<template>
  <section :aria-label="title">
    <h2 class="mx-0 mt-14 mb-4">{{ title }}</h2>
    <ul class="m-0 p-0 list-none">
      <li v-if="none" class="border-b border-line">
        <button
          class="block w-full px-8 py-5 border-l-3 border-transparent leading-[1.3] hover:bg-sunk current:border-copper current:bg-copperwash current:font-semibold"
          type="button"
          :class="['bare', { 'is-current': !chosen }]"
          :aria-pressed="!chosen"
          @click="emit('pick', undefined)"
        >
          <span>{{ none }}</span>
        </button>
      </li>
      <li v-for="part in parts" :key="part.id" class="border-b border-line">
        <button
          class="block w-full px-8 py-5 border-l-3 border-transparent leading-[1.3] hover:bg-sunk current:border-copper current:bg-copperwash current:font-semibold"
          type="button"
          :class="['bare', { 'is-current': part.board!.name === chosen }]"
          :aria-pressed="part.board!.name === chosen"
          @click="emit('pick', part)"
        >
          <span>{{ part.called }}</span>
          <small class="block text-ink2 font-normal text-small"
            >{{ part.says }}{{ part.pack ? `; of the pack ${part.pack}` : '' }}</small
          >
        </button>
      </li>
    </ul>
  </section>
</template>
