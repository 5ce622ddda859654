<script setup lang="ts">
import { onMounted } from 'vue'

import { useTrade } from '@/stores/trade'

const trade = useTrade()
onMounted(() => trade.load())
</script>

<template>
  <RouterView v-if="trade.tables" />
  <p v-else class="opening" role="status">Opening the workshop …</p>
</template>

<style scoped>
.opening {
  padding: 3rem;
  color: var(--ink2);
}
</style>
