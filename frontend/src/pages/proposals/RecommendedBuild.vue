<script setup lang="ts">
/** The one build that is recommended: how it lies, what it comes to, why, and what else there is. */
import type { Proposal, ProposalSearch } from '@/api/client'
import { useMoney } from '@/composables/useMoney'
import BayThumb from '@/drawings/BayThumb.vue'
import { t } from '@/words'

defineProps<{
  one: Proposal
  runnerUp?: Proposal
  says: NonNullable<ProposalSearch['recommended']>
  mode: string
  searching: boolean
  takenAs?: string
}>()
const emit = defineEmits<{ take: []; look: [] }>()

const money = useMoney()
const partsOf = (one: Proposal) => [one.cell, one.charger, ...one.others].join(' + ')
const figuresOf = (one: Proposal, mode: string) => [
  { label: mode, text: one.hours.text },
  { label: t('full in'), text: one.full_h.text },
  { label: t('price'), text: money(one.price) },
  { label: t('joints'), text: String(one.joints) },
  { label: t('to spare'), text: one.spare_mm?.text ?? t('not known') },
]
</script>

<template>
  <div
    class="grid grid-cols-[184px_minmax(0,1fr)] narrow:grid-cols-1 gap-18 p-14 border border-line2 rounded bg-sheet"
  >
    <BayThumb
      :picture="one.picture"
      class="narrow:hidden"
      style="width: 184px; height: 108px"
      aria-hidden="true"
    />
    <div class="min-w-0">
      <h2 class="m-0 text-head text-ink">
        {{
          searching
            ? t('So far, build {parts}', { parts: partsOf(one) })
            : t('Build {parts}', { parts: partsOf(one) })
        }}
      </h2>
      <dl class="flex flex-wrap gap-x-22 gap-y-4 mx-0 mt-6 mb-0">
        <div v-for="figure in figuresOf(one, mode)" :key="figure.label">
          <dt class="text-small text-ink2">{{ figure.label }}</dt>
          <dd class="m-0 font-semibold">{{ figure.text }}</dd>
        </div>
      </dl>
      <p class="m-0 mt-6">Because: {{ says.because }}.</p>
      <p v-if="takenAs" class="m-0 mt-6 text-pass" role="status">Taken as “{{ takenAs }}”.</p>
      <ElButton v-else class="mt-8" type="primary" :disabled="searching" @click="emit('take')"
        >Take this one</ElButton
      >
    </div>
  </div>
  <p v-if="runnerUp" class="m-0 mt-8 quiet">
    Or
    <button type="button" class="bare link-button" @click="emit('look')">{{ partsOf(runnerUp) }}</button>
    instead: {{ says.instead }}.
  </p>
</template>
