<script setup lang="ts">
/** The label of a field. A word of the trade in it is explained while the field is pointed at, or holds the focus. */
import { computed } from 'vue'

import { useReference } from '@/stores/reference'

const props = defineProps<{ for: string; path: string; hidden?: boolean }>()
const reference = useReference()
const term = computed(() => reference.termOf(props.path))
const guide = computed(() => reference.guideOf(props.path))
</script>

<template>
  <label :for="props.for" :class="['field-label', { 'visually-hidden': hidden, explained: term || guide }]">
    <slot />
    <span v-if="(term || guide) && !hidden" :id="`${props.for}-term`" class="term" role="note">
      <template v-if="term"
        ><b>{{ term.term }}.</b> {{ term.sentence }}
      </template>
      <RouterLink v-if="guide" :to="`/measuring#${guide}`" target="_blank">How to measure it</RouterLink>
    </span>
  </label>
</template>
