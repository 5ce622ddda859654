<script setup lang="ts">
import { onMounted } from 'vue'

import { useReference } from '@/stores/reference'

const reference = useReference()
onMounted(() => reference.load())
</script>

<template>
  <RouterView v-if="reference.tables" />
  <p v-else class="opening" role="status">Waiting for Pocket Spark to answer …</p>
</template>

<style scoped>
.opening {
  padding: 3rem;
  color: var(--ink2);
}
</style>
