<script setup lang="ts">
/** A page beside the stations: a way back, a heading, and what is on it. */
import { useRouter } from 'vue-router'

defineProps<{
  title: string
  /** What the way back is called and where it leads; by default to wherever one came from. */
  back?: string
  to?: string
  width?: number
}>()
const router = useRouter()
</script>

<template>
  <main class="mx-auto my-0 px-20 pt-22 pb-60" :style="{ maxWidth: `${width ?? 1120}px` }">
    <button type="button" class="bare mb-8 text-copper" @click="to ? router.push(to) : router.back()">
      ← {{ back ?? 'back' }}
    </button>
    <h1>{{ title }}</h1>
    <slot />
  </main>
</template>
