<script setup lang="ts">
/** Part of a long page, made in a task of its own, after what stands above it: that can be read and pressed by then. */
import { useOneByOne } from '@/composables/useOneByOne'

const made = useOneByOne(() => true, 1)
</script>

<template>
  <slot v-if="made" />
</template>
