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
  <main :style="{ maxWidth: `${width ?? 1120}px` }">
    <button type="button" class="bare" @click="to ? router.push(to) : router.back()">
      ← {{ back ?? 'back' }}
    </button>
    <h1>{{ title }}</h1>
    <slot />
  </main>
</template>

<style scoped>
main {
  margin: 0 auto;
  padding: 22px 20px 60px;
}
button {
  margin-bottom: 8px;
  color: var(--copper);
}
</style>
