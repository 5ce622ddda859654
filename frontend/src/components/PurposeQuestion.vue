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
  <section v-if="purpose === null" class="ask" aria-label="What kind of thing is it">
    <h2>Before anything is opened: what kind of thing is it?</h2>
    <div class="choices">
      <button
        v-for="choice in reference.tables!.purposes"
        :key="choice.value"
        type="button"
        :class="{ plain: choice.value === 'ordinary' }"
        @click="conversion.edit('gadget.purpose', choice.value)"
      >
        {{ choice.label }}
      </button>
    </div>
  </section>
  <p v-else-if="purpose !== 'ordinary'" class="no" role="alert">
    {{ label }}: this is not converted. The findings says why.
    <button type="button" class="bare" @click="conversion.edit('gadget.purpose', null)">Ask again</button>
  </p>
</template>

<style scoped>
.ask {
  margin: 12px 0 4px;
  padding: 10px 14px 12px;
  border: 1px solid var(--copper);
  border-radius: 3px;
  background: var(--copperwash);
}
.ask h2 {
  margin: 0 0 8px;
  color: var(--ink);
}
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.choices button {
  padding: 4px 11px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
  cursor: pointer;
}
.choices button.plain {
  border-color: var(--copper);
  font-weight: 600;
}
.choices button:hover {
  border-color: var(--ink);
}
.no {
  margin: 12px 0 4px;
  padding: 8px 12px;
  border-left: 4px solid var(--stop);
  background: var(--sheet);
  color: var(--stop);
  font-weight: 600;
}
.no button {
  color: var(--ink);
  font-weight: 400;
  text-decoration: underline;
}
</style>
