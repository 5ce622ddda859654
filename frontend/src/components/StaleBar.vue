<script setup lang="ts">
/** Said while the core has not answered for what stands on screen: nothing below is its word on it. */
import { useConversion } from '@/stores/conversion'

const conversion = useConversion()
</script>

<template>
  <p v-if="conversion.stale" class="stale-bar" role="status">
    Figures and marks are of an earlier state and do not count: there is no answer for this one yet. It is
    asked for again every three seconds.
  </p>
</template>

<style scoped>
.stale-bar {
  padding: 6px 20px;
  background: var(--caution);
  color: var(--paper);
  font-weight: 600;
}
</style>
