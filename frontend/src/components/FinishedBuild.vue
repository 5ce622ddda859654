<script setup lang="ts">
/** Every step done: what was promised beside what was measured, and the certificate with its label. */
import type { SheetReply } from '@/api/client'
import AsBuiltTable from '@/components/AsBuiltTable.vue'
import { useDownload } from '@/composables/useDownload'
import { useQuestion } from '@/composables/useQuestion'
import { api } from '@/api/client'
import { useConversion } from '@/stores/conversion'

const conversion = useConversion()
const lines = useQuestion<SheetReply>(async (body) => await api.POST('/api/questions/sheet', { body }))
const { problem, download } = useDownload()
const save = () =>
  download(
    '/api/questions/sheet/certificate',
    `${conversion.document!.gadget.name.toLowerCase().replaceAll(/\W+/g, '-')}-certificate.pdf`,
  )
</script>

<template>
  <section class="finished" aria-label="Finished">
    <h2>{{ conversion.build?.practice ? 'Practised to the end' : 'Finished and proven' }}</h2>
    <p>
      Every step is done, every checkpoint passed. Keep the paper with it, and glue the label into its lid.
    </p>
    <ElButton type="primary" @click="save">Certificate and label, PDF</ElButton>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <AsBuiltTable v-if="lines" :figures="lines.as_built" />
  </section>
</template>

<style scoped>
.finished {
  margin: 8px 0 16px;
  padding: 12px 16px;
  border-left: 5px solid var(--pass);
  background: var(--sheet);
}
</style>
