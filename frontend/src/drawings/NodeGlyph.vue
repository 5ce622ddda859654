<script setup lang="ts">
/** The drawn sign of one link of the chain: what the thing looks like on the bench. */
import type { PathNode } from '@/api/client'

defineProps<{ node: PathNode['key']; fill?: number }>()
</script>

<template>
  <svg class="glyph" viewBox="0 0 44 36" aria-hidden="true">
    <g v-if="node === 'source'">
      <rect x="7" y="11" width="14" height="14" rx="1" />
      <rect x="21" y="14" width="7" height="8" />
      <path d="M28 18h9M10.5 15v6" />
    </g>
    <g v-else-if="node === 'charger'">
      <rect x="5" y="8" width="34" height="20" rx="2" />
      <rect x="16" y="13" width="12" height="10" />
      <path d="M16 16h-4M16 20h-4M28 16h4M28 20h4" />
    </g>
    <g v-else-if="node === 'cell'">
      <rect x="12" y="17" width="20" height="13" rx="1" class="charge" />
      <rect x="10" y="9" width="24" height="23" rx="2.5" />
      <path d="M15 9V5M29 9V5" />
    </g>
    <g v-else-if="node === 'protection'">
      <path d="M5 18h8M31 18h8" />
      <path d="M13 10v16M31 10v16M13 18l9-6v12zM31 18l-9-6v12z" />
    </g>
    <g v-else-if="node === 'regulator'">
      <path d="M4 25h9M31 15h9" />
      <path d="M13 8h18v20H13z" />
      <path d="M13 25c8 0 10-10 18-10" />
    </g>
    <g v-else>
      <rect x="11" y="5" width="22" height="27" rx="3" />
      <rect x="15" y="9" width="14" height="9" rx="1" />
      <circle cx="22" cy="25" r="3" />
    </g>
  </svg>
</template>

<style scoped>
.glyph {
  width: 44px;
  height: 36px;
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.8;
  stroke-linejoin: round;
  stroke-linecap: round;
}
.charge {
  fill: var(--lithium);
  stroke: none;
}
</style>
