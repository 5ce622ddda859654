<script setup lang="ts">
/** The stop of the tour that is on: a card at the foot of the page, and a frame round what it tells of. */
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { nextTick, onScopeDispose, ref, watch } from 'vue'

import type { Station } from '@/api/client'
import { TOUR, useTour } from '@/composables/useTour'

const props = defineProps<{ station: Station }>()
const emit = defineEmits<{ go: [station: Station] }>()
const { walk, stop, next, back, leave } = useTour()
const card = ref<HTMLElement>()

const SOON_MS = 150
let framed: Element | null = null
function frame(place?: string): void {
  framed?.classList.remove('toured')
  // Of several places the one that is seen: a phone has the findings behind a button.
  framed = [...document.querySelectorAll(place ?? 'none')].find((one) => one.checkVisibility()) ?? null
  framed?.classList.add('toured')
  // What is small into the middle of what is free above the card, all else from its beginning.
  const small = (framed?.clientHeight ?? 0) < 100
  framed?.scrollIntoView({ block: small ? 'center' : 'start' })
}

watch(
  [stop, () => props.station],
  async ([shown, station], before) => {
    frame()
    if (!shown) return
    if (shown !== before[0] && shown.station && shown.station !== station) emit('go', shown.station)
    await nextTick()
    if (shown !== before[0]) card.value?.focus()
  },
  { immediate: true },
)
// A station comes with its own script, in its own time, and may be drawn anew under its frame.
const isFramed = () => framed?.isConnected && framed.classList.contains('toured')
useIntervalFn(() => stop.value && !isFramed() && frame(stop.value.place), SOON_MS)
useEventListener('keydown', (event) => event.key === 'Escape' && stop.value && leave())
onScopeDispose(() => frame())
</script>

<template>
  <section
    v-if="stop"
    ref="card"
    class="tour"
    tabindex="-1"
    aria-label="Tour"
    aria-live="polite"
    :data-at="walk.at"
  >
    <p class="quiet small m-0">{{ walk.at + 1 }} of {{ TOUR.length }}</p>
    <h2 class="m-0 text-ink">{{ stop.title }}</h2>
    <p class="mt-2 mb-8">{{ stop.text }}</p>
    <p class="flex gap-16 m-0">
      <button type="button" class="bare text-copper font-semibold" @click="next">
        {{ walk.at + 1 < TOUR.length ? 'Go on' : 'That is all' }}
      </button>
      <button v-if="walk.at" type="button" class="bare" @click="back">Back</button>
      <button type="button" class="bare ml-auto" @click="leave">Leave it; “?” has it again</button>
    </p>
  </section>
</template>

<style>
.toured {
  outline: 3px solid var(--copper);
  outline-offset: -3px;
}
html:has(.tour) {
  --card: 240px;
  scroll-padding-bottom: var(--card);
}
@media (max-width: 860px) {
  html:has(.tour) {
    --card: 330px;
  }
  #app:has(.tour) {
    height: auto;
    padding-bottom: var(--card);
  }
}
</style>

<style scoped>
.tour {
  position: fixed;
  bottom: 18px;
  left: 50%;
  z-index: 20;
  box-sizing: border-box;
  width: min(520px, 94vw);
  padding: 12px 18px;
  border: 1px solid var(--copper);
  border-top: 4px double var(--copper);
  border-radius: 3px;
  background: var(--sheet);
  transform: translateX(-50%);
}
@media (max-width: 860px) {
  /* Above the bar of stations. */
  .tour {
    bottom: 104px;
  }
  .tour button {
    min-height: 44px;
  }
}
</style>
