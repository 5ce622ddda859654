<script setup lang="ts">
/** What would let it all in, smallest first; and where it is tightest. */
import type { FitAnswer } from '@/api/client'
import { useConversion } from '@/stores/conversion'
import { useUnits } from '@/composables/useUnits'

const { lengthText } = useUnits()
defineProps<{ answer: FitAnswer }>()
const conversion = useConversion()
</script>

<template>
  <div>
    <template v-if="answer.remedies?.length">
      <h2 class="mx-0 mt-10 mb-4">What must give, smallest first</h2>
      <ul class="remedies m-0 p-0 list-none">
        <li
          v-for="given in answer.remedies"
          :key="given.says"
          class="flex justify-between gap-12 px-0 py-5 border-b border-line"
        >
          <span
            >{{ given.says }}<small v-if="given.buys" class="quiet block"> {{ given.buys }}</small></span
          >
          <button
            v-if="given.edits?.length"
            type="button"
            class="bare text-copper font-semibold whitespace-nowrap"
            @click="conversion.apply({ label: given.says, edits: given.edits })"
          >
            Do it
          </button>
        </li>
      </ul>
    </template>
    <p v-else-if="answer.fits === 'no' || answer.fits === 'not_settled'" class="quiet">
      Neither one change nor two lets it all in: choose a smaller cell or board, or put more of it outside.
    </p>
    <p v-if="answer.shut_in?.length" class="text-caution font-semibold" role="note">
      No wire can be led to the pads of {{ answer.shut_in.join(' and ') }} where it lies now.
    </p>
    <template v-if="answer.gaps?.length">
      <h2 class="mx-0 mt-10 mb-4">Tightest places</h2>
      <ul class="m-0 p-0 list-none">
        <li v-for="gap in answer.gaps.slice(0, 4)" :key="gap.first + gap.second" class="px-0 py-2">
          <b>{{ lengthText(gap.mm) }}</b> {{ gap.first }} to {{ gap.second }}
        </li>
      </ul>
    </template>
  </div>
</template>
