<script setup lang="ts">
/** Where a number came from, in a word; as its first letter where room lacks. A press says the next origin. */
import { computed } from 'vue'

import type { Basis } from '@/api/client'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

const props = defineProps<{ basis?: Basis; path?: string; empty?: Basis; short?: boolean }>()
const conversion = useConversion()
const reference = useReference()

/** What a maker may say of a number of their own; *usual* is what stands there when nobody has said anything. */
const SAYABLE: Basis[] = ['measured', 'label', 'inferred']

const shown = computed<Basis>(() => {
  if (props.basis) return props.basis
  const basis = conversion.basisOf(props.path ?? '')
  return basis === 'default' ? (props.empty ?? 'default') : basis
})
const word = computed(() => reference.tables!.bases.find((basis) => basis.value === shown.value)!)
const settable = computed(() => !!props.path && conversion.basisOf(props.path) !== 'default')

function next(): void {
  if (!props.path) return
  conversion.setBasis(props.path, SAYABLE[(SAYABLE.indexOf(shown.value) + 1) % SAYABLE.length]!)
}
</script>

<template>
  <component
    :is="settable ? 'button' : 'span'"
    :type="settable ? 'button' : undefined"
    :class="['basis', shown, { short }]"
    :title="settable ? `${word.label}: ${word.detail}; press to change` : `${word.label}: ${word.detail}`"
    :aria-label="`basis: ${word.label}`"
    :role="settable ? undefined : 'img'"
    @click="next"
    >{{ short ? word.label[0] : word.label }}</component
  >
</template>

<style scoped>
.basis {
  min-width: 62px;
  padding: 1px 6px 2px;
  border: 1px solid currentColor;
  border-radius: 9px;
  background: none;
  font: 600 11.5px/1.3 var(--sans);
  text-align: center;
}
.basis.short {
  justify-self: start;
  min-width: var(--target);
  padding: 0 0 1px;
}
.measured {
  color: var(--pass);
}
.label {
  color: var(--note);
}
.inferred,
.default {
  color: var(--caution);
  border-style: dashed;
}
</style>
