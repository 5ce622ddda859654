<script setup lang="ts">
/** How bright lamps are from full to empty, mode by mode, under the chart of the volts and to its scale. */
import { computed } from 'vue'

import type { RunSummary } from '@/api/client'

const props = defineProps<{ run: RunSummary }>()

const strips = computed(() =>
  props.run.modes.flatMap(({ name, light, curve }) => {
    if (!light) return []
    const stops = light.shares.map((share, index) => {
      const lit = Math.min(Math.max(share, 0), 1) * 100
      const at = (1 - curve.soc[index]!) * 100
      return `color-mix(in srgb, var(--lit) ${lit.toFixed(0)}%, var(--dark)) ${at.toFixed(1)}%`
    })
    const dark = `var(--sheet) ${((1 - curve.soc.at(-1)!) * 100).toFixed(1)}%`
    return [{ name, light, background: `linear-gradient(to right, ${stops.join(', ')}, ${dark})` }]
  }),
)
</script>

<template>
  <div
    v-if="strips.length"
    class="flex flex-col gap-4 mb-10"
    aria-label="Light, from full to empty"
    role="list"
  >
    <div v-for="{ name, light, background } in strips" :key="name" role="listitem">
      <div class="strip" :style="{ background }" aria-hidden="true" />
      <p class="m-0 text-small text-ink2">
        Light of “{{ name }}”: <b>{{ light.at_first.text }}</b> of what it was made for at first,
        <b>{{ light.half_way.text }}</b> half way, <b>{{ light.at_the_end.text }}</b> at the end
      </p>
    </div>
  </div>
</template>

<style scoped>
.strip {
  --lit: #f6c445;
  --dark: #2b2a27;
  height: 14px;
  margin: 0 14px 0 52px;
  border: 1px solid var(--line2);
}
</style>
