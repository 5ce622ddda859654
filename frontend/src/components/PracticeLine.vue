<script setup lang="ts">
/** Whether this build is a practice copy, on which the simulated instruments work; else the way to one. */
import { computed } from 'vue'

import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const conversion = useConversion()
const practice = computed(() => conversion.build?.practice)
const name = computed(() => t('Practice: {name}', { name: conversion.build?.name }).slice(0, 120))
</script>

<template>
  <p v-if="practice" class="mx-0 my-8 px-10 py-6 border border-caution border-dashed" role="note">
    <b>Practice copy.</b> Nothing of it is soldered, its readings may be simulated, and every page of it says
    so.
  </p>
  <p v-else class="quiet small">
    Simulated instruments work on a practice copy alone, so that no made-up figure stands beside a measured
    one.
    <button type="button" class="bare text-copper font-semibold" @click="conversion.copyBuild(name, true)">
      Practise on a copy
    </button>
  </p>
</template>
