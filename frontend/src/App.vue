<script setup lang="ts">
import { onMounted } from 'vue'

import { useReference } from '@/stores/reference'

const reference = useReference()
onMounted(() => reference.load())

/** Past header, power path and stations, for whoever goes by keyboard. */
function toTheWork(): void {
  const work = document.querySelector<HTMLElement>('main')
  work?.setAttribute('tabindex', '-1')
  work?.focus()
}
</script>

<template>
  <a class="skip" href="#" @click.prevent="toTheWork">Skip to the work</a>
  <RouterView v-if="reference.tables" />
  <p v-else class="opening" role="status">Waiting for Pocket Spark to answer …</p>
</template>

<style scoped>
.opening {
  padding: 3rem;
  color: var(--ink2);
}
.skip {
  position: absolute;
  z-index: 50;
  top: -60px;
  left: 8px;
  padding: 8px 14px;
  background: var(--sheet);
}
.skip:focus {
  top: 4px;
}
</style>
