<script setup lang="ts">
/** The one question before anything else: is this a thing that may be converted at all? Asked once. */
import { computed } from 'vue'

import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

const conversion = useConversion()
const reference = useReference()
const purpose = computed(() => conversion.document!.gadget.purpose)
const label = computed(() => reference.labelOf(reference.tables!.purposes, purpose.value ?? ''))
</script>

<template>
  <section
    v-if="purpose === null"
    class="mx-0 mt-12 mb-4 px-14 pt-10 pb-12 border border-copper rounded bg-copperwash"
    aria-label="What kind of thing is it"
  >
    <h2 class="mx-0 mt-0 mb-8 text-ink">Before anything is opened: what kind of thing is it?</h2>
    <div class="choices flex flex-wrap gap-6">
      <button
        v-for="choice in reference.tables!.purposes"
        :key="choice.value"
        class="px-11 py-4 framed bg-sheet cursor-pointer"
        type="button"
        :class="{ plain: choice.value === 'ordinary' }"
        @click="conversion.edit('gadget.purpose', choice.value)"
      >
        {{ choice.label }}
      </button>
    </div>
  </section>
  <p
    v-else-if="purpose !== 'ordinary'"
    class="mx-0 mt-12 mb-4 px-12 py-8 border-l-4 border-stop bg-sheet text-stop font-semibold"
    role="alert"
  >
    {{ label }}: this is not converted. The findings says why.
    <button
      type="button"
      class="bare text-ink font-normal underline"
      @click="conversion.edit('gadget.purpose', null)"
    >
      Ask again
    </button>
  </p>
</template>

<style scoped>
.choices button.plain {
  border-color: var(--copper);
  font-weight: 600;
}
.choices button:hover {
  border-color: var(--ink);
}
</style>
