<script setup lang="ts">
/** One file with everything: made by the server, which says how far it is, and then saved here. */
import { ref, watch } from 'vue'

import { api, type BackupUnderWay } from '@/api/client'
import { useLongWork } from '@/composables/useLongWork'
import { megabytes } from '@/format'

const history = ref(true)
const path = (id: number) => ({ params: { path: { job_id: id } } })
const { work, problem, start, stop } = useLongWork<BackupUnderWay>({
  look: (id) => api.GET('/api/backup/{job_id}', path(id)),
  cancel: (id) => api.DELETE('/api/backup/{job_id}', { ...path(id), keepalive: true }),
  everyMs: 150,
})
const begin = () => start(() => api.POST('/api/backup', { params: { query: { history: history.value } } }))

watch(
  () => work.value?.state,
  (state) => {
    if (state !== 'finished') return
    const link = document.createElement('a')
    link.href = `/api/backup/${work.value!.id}/file`
    link.download = ''
    link.click()
  },
)
</script>

<template>
  <p v-if="problem || work?.failure" class="error-line" role="alert">{{ problem || work?.failure }}</p>
  <ElCheckbox v-model="history">With every earlier state of each conversion</ElCheckbox>
  <div v-if="work?.state === 'running'" class="flex items-center gap-12 my-6">
    <progress
      class="w-180 accent-copper"
      :value="work.done"
      :max="work.total || 1"
      aria-label="Written so far"
    />
    <span>{{ megabytes(work.done) }} of {{ megabytes(work.total) }}</span>
    <ElButton size="small" @click="stop">Stop</ElButton>
  </div>
  <p v-else class="flex items-center gap-12 my-6">
    <ElButton @click="begin">Save the backup file</ElButton>
    <span v-if="work?.state === 'finished'" role="status"
      >{{ megabytes(work.total) }}, read back and whole.</span
    >
  </p>
</template>
