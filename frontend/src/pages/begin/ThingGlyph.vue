<script setup lang="ts">
/** A kind of gadget in a few strokes. */
const DRAWN: Record<string, string> = {
  led_lamp: 'M16 32V18a8 8 0 0 1 16 0v14zM13 32h22M20 32v8M28 32v8M36 12l4-4M38 19h5M10 19H5M12 12L8 8',
  bulb: 'M18 30c-5-4-7-8-7-12a13 13 0 0 1 26 0c0 4-2 8-7 12zM18 34h12M19 38h10M19 24l3-6 2 4 2-4 3 6',
  motor: 'M8 14h24v20H8zM32 20h8M32 28h8M40 18v12M14 14v-4M26 14v-4M4 18v12',
  meter: 'M6 8h36v32H6zM12 26a12 12 0 0 1 24 0M24 26l7-8M12 33h24',
  sound: 'M8 19h8l10-9v28l-10-9H8zM31 18a8 8 0 0 1 0 12M35 13a15 15 0 0 1 0 22',
  chip: 'M13 11h22v26H13zM13 16H7M13 24H7M13 32H7M35 16h6M35 24h6M35 32h6M18 16h3',
  heater: 'M6 36h36M12 30c-4-6 4-8 0-14M24 30c-4-6 4-8 0-14M36 30c-4-6 4-8 0-14',
  unknown: 'M16 18a8 8 0 1 1 11 7c-2 1-3 3-3 5M24 36v1',
  jack: 'M6 18h22v12H6zM28 22h8v4h-8M36 24h8M12 18v-6h8v6',
  contacts: 'M8 32h32v6H8zM14 32v-8M34 32v-8M10 10h28v10H10z',
  dock: 'M10 36h28l-4-10H14zM17 26V10h14v16M21 15h6',
  none: 'M17 12h14v28H17zM21 12V8h6v4M12 40L38 10',
  lithium_charger: 'M12 10h24v28H12zM26 14l-7 11h5l-3 9 8-12h-5z',
}
defineProps<{ kind: string }>()
</script>

<template>
  <svg class="thing" viewBox="0 0 48 48" width="48" height="48" aria-hidden="true">
    <path :d="DRAWN[kind] ?? DRAWN.unknown" />
  </svg>
</template>

<style scoped>
.thing {
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.7;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
