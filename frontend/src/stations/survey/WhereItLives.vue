<script setup lang="ts">
/** Where the gadget lives, in one row of pictures: its temperatures, water and shaking follow from it. */
import { computed } from 'vue'

import ChoiceField from '@/kit/ChoiceField.vue'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const PATH = 'gadget.shell.climate'
const conversion = useConversion()
const reference = useReference()
const lives = computed(() => conversion.document?.gadget.shell?.climate ?? '')
const places = computed(() => [
  { value: '', label: t('Not said'), detail: t('the same all year') },
  ...(reference.tables?.climates ?? []),
])

/** One stroke each, in a box of 24. */
const STROKES: Record<string, string> = {
  '': 'M8 9a4 4 0 1 1 5 4c-1 .4-1 1-1 3M12 19.5v.5',
  indoors: 'M4 12 12 5l8 7M6 10.5V20h12v-9.500M10.500 20v-5h3v5',
  bathroom:
    'M4 13h16v2a4 4 0 0 1-4 4H8a4 4 0 0 1-4-4zM8 4c-1 1.500 1 2.500 0 4M12 4c-1 1.500 1 2.500 0 4M16 4c-1 1.500 1 2.500 0 4',
  shed: 'M3 11 7 6h10l4 5M5 11v9h14v-9M9 20v-6h6v6',
  temperate: 'M12 20v-8M12 12c-5 0-7-3-7-7 5 0 7 3 7 7zM12 14c0-4 2-6 7-6 0 4-2 6-7 6',
  cold: 'M12 3v18M4.500 7.500l15 9M19.500 7.500l-15 9',
  hot: 'M12 8a4 4 0 1 0 .01 0M12 2v3M12 19v3M2 12h3M19 12h3M5 5l2 2M17 17l2 2M19 5l-2 2M7 17l-2 2',
  car: 'M3 15v-3l3-1 2-4h7l3 4 3 1v3H3zM7 15a2 2 0 1 0 .01 0M17 15a2 2 0 1 0 .01 0',
  pocket: 'M6 7h12v9a4 4 0 0 1-4 4h-4a4 4 0 0 1-4-4zM6 11h12M9 7V5h6v2',
}
</script>

<template>
  <section class="mt-14" aria-label="Where it lives">
    <h2 class="mx-0 mt-0 mb-6">Where it lives</h2>
    <div class="places" role="group" aria-label="Where it lives, in pictures">
      <button
        v-for="place in places"
        :key="place.value"
        type="button"
        :aria-pressed="lives === place.value"
        :title="place.detail"
        @click="conversion.edit(PATH, place.value || null)"
      >
        <svg width="30" height="30" viewBox="0 0 24 24" aria-hidden="true">
          <path :d="STROKES[place.value]" />
        </svg>
        {{ place.label }}
      </button>
    </div>
    <div class="mt-8 max-w-460">
      <ChoiceField
        path="gadget.shell.moved"
        label="It is moved about"
        empty="as usual there"
        :choices="reference.tables!.moved"
      />
    </div>
  </section>
</template>

<style scoped>
.places {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(84px, 1fr));
  gap: 4px;
}
button {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 4px;
  min-height: 66px;
  padding: 6px 2px;
  border: 1px solid transparent;
  border-radius: 4px;
  background: none;
  color: var(--ink2);
  font-size: 12.5px;
  line-height: 1.2;
  text-align: center;
  cursor: pointer;
}
button:hover {
  border-color: var(--line2);
}
button[aria-pressed='true'] {
  border-color: var(--copper);
  background: var(--copperwash);
  color: var(--ink);
  font-weight: 600;
}
path {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.6;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
