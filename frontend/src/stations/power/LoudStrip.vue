<script setup lang="ts">
/** How loud it gets from full to empty, mode by mode: a wedge under the chart of the volts and to its scale. */
import { computed } from 'vue'

import type { RunSummary } from '@/api/client'

const props = defineProps<{ run: RunSummary }>()

const WIDE = 100
const HIGH = 20
/** From as loud as it was made for at the top down to this at the bottom. */
const QUIET_DB = -12

const wedges = computed(() =>
  props.run.modes.flatMap(({ name, loudness, curve }) => {
    if (!loudness) return []
    const edge = loudness.decibels.map((db, index) => {
      const down = Math.min(Math.max(db / QUIET_DB, 0), 1)
      return { x: (1 - curve.soc[index]!) * WIDE, y: (down * HIGH) / 2 }
    })
    const back = edge.map(({ x, y }) => ({ x, y: HIGH - y })).reverse()
    const points = [...edge, ...back].map(({ x, y }) => `${x},${y}`).join(' ')
    return [{ name, loudness, points }]
  }),
)

const whistles = computed(() =>
  props.run.modes.flatMap(({ name, whistle }) => (whistle ? [{ name, whistle }] : [])),
)
</script>

<template>
  <section v-if="wedges.length" class="mb-10">
    <div class="flex flex-col gap-4" aria-label="Loudness, from full to empty" role="list">
      <div v-for="{ name, loudness, points } in wedges" :key="name" role="listitem">
        <svg class="wedge" :viewBox="`0 0 ${WIDE} ${HIGH}`" preserveAspectRatio="none" aria-hidden="true">
          <polygon :points="points" />
        </svg>
        <p class="m-0 text-small text-ink2">
          Loudest in “{{ name }}”, against what it was made for: <b>{{ loudness.at_first.text }}</b> at first,
          <b>{{ loudness.half_way.text }}</b> half way, <b>{{ loudness.at_the_end.text }}</b> at the end
        </p>
      </div>
    </div>
    <p class="quiet small m-0">An ear tells 3 dB apart; 10 dB less sound half as loud.</p>
  </section>
  <section v-if="whistles.length" class="mb-10" aria-label="Whistle of the converter">
    <p v-for="{ name, whistle } in whistles" :key="name" class="m-0 text-small text-ink2">
      In “{{ name }}” the converter works in bursts, about <b>{{ whistle.bursts.text }}</b>:
      {{
        whistle.is_heard ? 'a tone that people hear' : 'above what people hear, though a radio may pick it up'
      }}
    </p>
  </section>
</template>

<style scoped>
.wedge {
  display: block;
  width: calc(100% - 66px);
  height: 20px;
  margin: 0 14px 0 52px;
}
polygon {
  fill: var(--copper);
  opacity: 0.55;
}
</style>
