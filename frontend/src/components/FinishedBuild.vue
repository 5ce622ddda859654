<script setup lang="ts">
/** Every step done: what was promised beside what was measured, and the certificate with its label. */
import type { BuiltReply, Procedure } from '@/api/client'
import AsBuiltTable from '@/components/AsBuiltTable.vue'
import ExportLinks from '@/components/ExportLinks.vue'
import { useQuestion } from '@/composables/useQuestion'
import { api } from '@/api/client'
import { useConversion } from '@/stores/conversion'

defineProps<{ verdict: NonNullable<Procedure['verdict']> }>()
const conversion = useConversion()
const lines = useQuestion<BuiltReply>(
  async (body) => await api.POST('/api/questions/sheet/as-built', { body }),
)
</script>

<template>
  <section
    :class="[
      'mx-0 mt-8 mb-16 px-16 py-12 border-l-5 bg-sheet',
      verdict.kind === 'proven' ? 'border-pass' : 'border-caution',
    ]"
    aria-label="Finished"
  >
    <h2>{{ conversion.build?.practice ? 'Practised to the end' : verdict.label }}</h2>
    <ul v-if="verdict.because?.length && !conversion.build?.practice" class="mx-0 mt-0 mb-8 pl-18">
      <li v-for="reason in verdict.because" :key="reason">{{ reason }}</li>
    </ul>
    <p>Every step is done. Keep the paper with it, and glue the label into its lid.</p>
    <p class="text-large"><ExportLinks page="finished" /></p>
    <AsBuiltTable v-if="lines" :figures="lines.as_built" />
  </section>
</template>
