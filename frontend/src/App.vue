<script setup lang="ts">
import { onMounted, watch } from 'vue'

import { useTextSize } from '@/composables/useTextSize'
import { useUnits } from '@/composables/useUnits'
import { useReference } from '@/stores/reference'

const reference = useReference()
// Its cookie goes with the first question.
const { length, temperature, decimals } = useUnits()
// Its tables are told in them.
watch([length, temperature, decimals], () => void reference.load())
useTextSize()
onMounted(() => reference.load())

/** Past header, power path and stations, for whoever goes by keyboard. */
function toTheWork(): void {
  const work = document.querySelector<HTMLElement>('main')
  work?.setAttribute('tabindex', '-1')
  work?.focus()
}
</script>

<template>
  <a class="skip tap -top-60 left-8 absolute z-50 px-14 py-8 bg-sheet" href="#" @click.prevent="toTheWork"
    >Skip to the work</a
  >
  <RouterView v-if="reference.tables" />
  <p v-else class="p-[3rem] text-ink2" role="status">Waiting for Pocket Spark to answer …</p>
</template>

<style scoped>
.skip:focus {
  top: 4px;
}
</style>
