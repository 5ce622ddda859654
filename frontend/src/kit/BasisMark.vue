<script setup lang="ts">
/** Where a number came from, as a small ringed letter. With a path it is a button that says the next origin. */
import { computed } from 'vue'

import type { Basis } from '@/api/client'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ basis?: Basis; path?: string; empty?: Basis }>()
const conversion = useConversion()

const ORDER: Basis[] = ['measured', 'label', 'inferred']
const MEANING: Record<Basis, string> = {
  measured: 'measured',
  label: 'from a label or data sheet',
  inferred: 'inferred, not measured',
  default: 'a usual value, not yours',
}

const shown = computed<Basis>(() => {
  if (props.basis) return props.basis
  const basis = conversion.basisOf(props.path ?? '')
  return basis === 'default' ? (props.empty ?? 'default') : basis
})

const settable = computed(() => !!props.path && conversion.basisOf(props.path) !== 'default')

function next(): void {
  if (!props.path) return
  conversion.setBasis(props.path, ORDER[(ORDER.indexOf(shown.value) + 1) % ORDER.length]!)
}
</script>

<template>
  <component
    :is="settable ? 'button' : 'span'"
    :type="settable ? 'button' : undefined"
    :class="['basis', shown]"
    :title="settable ? `${MEANING[shown]}; press to change` : MEANING[shown]"
    :aria-label="`basis: ${MEANING[shown]}`"
    :role="settable ? undefined : 'img'"
    @click="next"
    >{{ shown[0] }}</component
  >
</template>

<style scoped>
.basis {
  display: inline-grid;
  place-items: center;
  flex: none;
  width: 18px;
  height: 18px;
  padding: 0;
  border: 1.5px solid currentColor;
  border-radius: 50%;
  background: none;
  font: 600 11px/1 var(--sans);
}
button.basis {
  cursor: pointer;
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
