<script setup lang="ts">
/** What is to buy: the words to search by, what to look for, what to leave. */
import type { ShoppingLine } from '@/api/client'
import { useMoney } from '@/composables/useMoney'

defineProps<{ lines: readonly ShoppingLine[] }>()
const money = useMoney()
const missing = (line: ShoppingLine) => line.pieces - line.at_hand
</script>

<template>
  <ol aria-label="To buy">
    <li v-for="line in lines" :key="`${line.part} ${line.size}`" class="px-0 py-10 border-b border-line">
      <b>{{ missing(line) }} x {{ line.part }}</b>
      &nbsp;<span v-if="line.size" class="quiet">{{ line.size }}</span>
      <span v-if="(line.sold_by ?? 1) > 1" class="quiet"
        >&nbsp;{{ line.bags }} {{ line.bags === 1 ? 'bag' : 'bags' }} of {{ line.sold_by }}</span
      >
      <span v-if="line.price !== null && line.price !== undefined" class="float-right">{{
        money(missing(line) * line.price)
      }}</span>
      <p v-if="line.wanted_by?.length" class="quiet">for {{ line.wanted_by.join(', ') }}</p>
      <p>
        search for <kbd class="px-6 py-1 bg-sunk font-mono">{{ line.search }}</kbd>
      </p>
      <ul>
        <li v-for="look in line.look_for" :key="look" class="look">{{ look }}</li>
        <li v-for="leave in line.leave" :key="leave" class="leave">leave {{ leave }}</li>
      </ul>
    </li>
  </ol>
</template>

<style scoped>
.look::marker {
  content: '✓ ';
  color: var(--pass);
}
.leave::marker {
  content: '– ';
  color: var(--stop);
}
</style>
