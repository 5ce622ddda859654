<script setup lang="ts">
/** The answer in one line on top of every station; its reasons are a press away. */
import { useConversion } from '@/stores/conversion'

const conversion = useConversion()
</script>

<template>
  <p v-if="conversion.assessment?.worth" class="m-0 mb-10 pb-6 border-b border-line text-small text-pretty">
    {{ conversion.assessment.worth.says }}
    <RouterLink :to="`/conversion/${conversion.stored?.id}/verdict`" class="tap font-semibold"
      >Why?</RouterLink
    >
  </p>
</template>
