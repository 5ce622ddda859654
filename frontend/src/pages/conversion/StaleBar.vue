<script setup lang="ts">
/** Said while the core has not answered for what stands on screen: nothing below is its word on it. */
import { useConversion } from '@/stores/conversion'

const conversion = useConversion()
</script>

<template>
  <p v-if="conversion.stale" class="px-20 py-6 bg-caution text-paper font-semibold" role="status">
    Figures and marks are of an earlier state and do not count: there is no answer for this one yet. It is
    asked for again every three seconds.
  </p>
</template>
