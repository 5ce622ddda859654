<script setup lang="ts">
/** The label of a field. A word of the trade in it is explained while the field is pointed at, or holds the focus. */
import { computed } from 'vue'

import { useReference } from '@/stores/reference'

const props = defineProps<{ for: string; path: string; hidden?: boolean }>()
const reference = useReference()
const term = computed(() => reference.termOf(props.path))
</script>

<template>
  <label :for="props.for" :class="['field-label', { 'visually-hidden': hidden, explained: term }]">
    <slot />
    <span v-if="term && !hidden" :id="`${props.for}-term`" class="term" role="note">
      <b>{{ term.term }}.</b> {{ term.sentence }}
    </span>
  </label>
</template>
