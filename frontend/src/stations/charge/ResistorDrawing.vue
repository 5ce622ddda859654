<script setup lang="ts">
/** A resistor as it lies on the bench: leaded with its bands, and the chip with its code. */
import { computed } from 'vue'
import { COLOURS } from '@/stations/charge/resistorWords'

const props = defineProps<{ bands: readonly string[]; paints: readonly string[]; chipCode: string }>()

const placed = computed(() => {
  const last = props.paints.length - 1
  return props.paints.map((paint, index) => ({ paint, x: index === last ? 168 : 66 + index * 25 }))
})
</script>

<template>
  <svg
    viewBox="0 0 330 56"
    class="w-full max-w-330"
    role="img"
    :aria-label="`bands ${bands.map((band) => COLOURS[band] ?? band).join(', ')}; chip code ${chipCode}`"
  >
    <path d="M4 28H236" class="lead" />
    <rect x="46" y="8" width="148" height="40" rx="14" class="body" />
    <rect v-for="band in placed" :key="band.x" :x="band.x" y="8" width="11" height="40" :fill="band.paint" />
    <rect x="46" y="8" width="148" height="40" rx="14" class="case" />
    <g transform="translate(262 14)">
      <rect width="62" height="29" class="terminal" />
      <rect x="9" width="44" height="29" class="chip" />
      <text x="31" y="20">{{ chipCode }}</text>
    </g>
  </svg>
</template>

<style scoped>
.lead {
  stroke: var(--ink3);
  stroke-width: 2.5;
}
.body {
  fill: #e6d3ac;
}
.case {
  fill: none;
  stroke: #b49f74;
}
.terminal {
  fill: #c9ced1;
  stroke: #8f979c;
}
.chip {
  fill: #20262a;
}
text {
  fill: #f4f4f0;
  font: 14px var(--mono);
  text-anchor: middle;
}
</style>
