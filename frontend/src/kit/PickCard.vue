<script setup lang="ts">
/** One of a few answers that are shown before a list of all: what it comes to, what it is, and why. */
defineProps<{ head: string; chosen: boolean }>()
defineEmits<{ pick: [] }>()
</script>

<template>
  <button
    type="button"
    class="bare flex items-center gap-10 w-full h-full px-10 py-8 border border-line2 rounded bg-sheet text-left hover:bg-copperwash current:border-copper"
    :class="{ 'is-current': chosen }"
    :aria-pressed="chosen"
    @click="$emit('pick')"
  >
    <slot name="picture" />
    <span class="min-w-0">
      <b class="block">{{ head }}</b>
      <slot />
    </span>
  </button>
</template>
