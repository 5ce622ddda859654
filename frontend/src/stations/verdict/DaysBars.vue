<script setup lang="ts">
/** How long each way of feeding the gadget lasts, side by side to one scale. */
import { computed } from 'vue'

import type { WorthIt } from '@/api/client'

const props = defineProps<{ lasting: WorthIt['lasting'] }>()
const longest = computed(() => Math.max(...props.lasting.map(({ days }) => days.value), 1e-9))
</script>

<template>
  <ul class="grid gap-10 m-0 p-0 list-none" aria-label="Days on a set, days on a charge">
    <li
      v-for="one in lasting"
      :key="one.kind"
      class="grid grid-cols-[210px_minmax(0,1fr)] items-center gap-x-12 gap-y-2 narrow:grid-cols-1"
    >
      <b class="text-pretty">{{ one.label }}</b>
      <span class="flex items-center gap-10 min-w-0">
        <span
          class="bar"
          :class="one.kind"
          :style="{ flexBasis: `${(one.days.value / longest) * 55}%` }"
          aria-hidden="true"
        />
        <span class="text-pretty"
          >{{ one.days.text }}<template v-if="one.then">, {{ one.then }}</template></span
        >
      </span>
    </li>
  </ul>
</template>

<style scoped>
.bar {
  flex: 0 0 auto;
  min-width: 2px;
  height: 22px;
  border-radius: 2px;
  background: var(--old);
}
.bar.build {
  background: var(--lithium);
}
</style>
