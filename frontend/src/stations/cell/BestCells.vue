<script setup lang="ts">
/** The three cells that serve this gadget best and go in, each as a thing: its picture, room, how long, what it costs. */
import { computed } from 'vue'

import type { CellCandidate } from '@/api/client'
import type { TriedCell } from '@/stations/cell/triedCell'
import { useMoney } from '@/composables/useMoney'
import CellGlyph from '@/drawings/CellGlyph.vue'
import PickCard from '@/kit/PickCard.vue'

const MOST = 3

const props = defineProps<{
  cells: TriedCell[]
  outcomes: Map<string, CellCandidate['outcome']>
  chosen: string
}>()
const emit = defineEmits<{ choose: [cell: TriedCell] }>()
const money = useMoney()

const best = computed(() =>
  props.cells
    .flatMap((tried) => {
      const outcome = props.outcomes.get(tried.id)
      return outcome?.suits ? [{ tried, outcome }] : []
    })
    .sort((a, b) => (a.outcome.place ?? 0) - (b.outcome.place ?? 0))
    .slice(0, MOST),
)
</script>

<template>
  <p v-if="best.length" class="quiet mx-0 mt-10 mb-0">
    Best for this gadget, by days of use. Whether the boards go in beside it, Fit says.
  </p>
  <ol
    v-if="best.length"
    class="grid grid-cols-3 gap-12 mx-0 mt-6 mb-12 p-0 list-none narrow:grid-cols-1"
    aria-label="Best for this gadget"
  >
    <li v-for="{ tried, outcome } in best" :key="tried.id">
      <PickCard
        :head="(outcome.days ?? outcome.run_hours)?.text ?? ''"
        :chosen="tried.cell.name === chosen"
        @pick="emit('choose', tried)"
      >
        <template #picture
          ><span class="flex-none w-56"><CellGlyph :cell="tried.cell" :scale="0.55" /></span
        ></template>
        {{ tried.cell.name }}<template v-if="tried.own">, your own</template>
        <small class="block text-ink2">
          <template v-if="outcome.outer_margin_mm">{{ outcome.outer_margin_mm.text }} to spare</template>
          <template v-if="outcome.price">, {{ money(outcome.price) }}</template>
        </small>
      </PickCard>
    </li>
  </ol>
  <p v-else-if="outcomes.size" class="quiet my-12">
    None of the cells here goes in and serves: see below what comes nearest, or where else it may sit.
  </p>
</template>
