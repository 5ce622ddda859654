<script setup lang="ts">
/** Where the maker's work is safe: a backup of everything, the archive, and which devices may come in. */
import { onMounted, ref } from 'vue'

import { dayOfMonth } from '@/format'
import PageFrame from '@/kit/PageFrame.vue'
import BackupMaker from '@/pages/safekeeping/BackupMaker.vue'
import DataCopiesList from '@/pages/safekeeping/DataCopiesList.vue'
import PairedDevices from '@/pages/safekeeping/PairedDevices.vue'
import { useProjects } from '@/stores/projects'
import { t } from '@/words'

const projects = useProjects()
const toErase = ref<number>()

onMounted(() => {
  document.title = t('Safekeeping · Pocket Spark')
  void projects.loadArchived()
})

async function erase(id: number): Promise<void> {
  await projects.erase(id)
  toErase.value = undefined
}
</script>

<template>
  <PageFrame title="Safekeeping" :width="820" to="/" back="conversions">
    <p v-if="projects.problem" class="error-line" role="alert">{{ projects.problem }}</p>
    <section aria-labelledby="backup">
      <h2 id="backup">A backup of everything</h2>
      <p>
        One file holds all conversions, your parts, photographs, meters and logs.
        <b>./spark restore FILE</b> puts one back into an empty folder.
      </p>
      <BackupMaker />
    </section>

    <DataCopiesList />

    <!-- Once it is known what is in it: what stands below is not pushed down then. -->
    <section v-if="projects.archived || projects.problem" aria-labelledby="archive">
      <h2 id="archive">The archive</h2>
      <p v-if="!projects.archived?.length" class="quiet">
        Nothing is archived. The box at the end of a conversion's line puts it here.
      </p>
      <dl v-else class="ruled-list">
        <div v-for="line in projects.archived" :key="line.id">
          <dt>{{ line.name }}</dt>
          <dd>
            <span class="quiet"
              >{{ line.summary?.supply }} · last changed {{ dayOfMonth(line.saved_at) }}</span
            >
            <p v-if="toErase === line.id" role="alert">
              Its history, photographs and logs go with it, and there is no way back.
              <button type="button" class="bare link-button stop" @click="erase(line.id)">
                Erase for good
              </button>
              <button type="button" class="bare link-button" @click="toErase = undefined">Keep it</button>
            </p>
            <p v-else>
              <button type="button" class="bare link-button" @click="projects.restore(line.id)">
                Restore it
              </button>
              <button type="button" class="bare link-button" @click="toErase = line.id">Erase it …</button>
            </p>
          </dd>
        </div>
      </dl>
    </section>

    <PairedDevices v-if="projects.archived || projects.problem" />
  </PageFrame>
</template>
