<script setup lang="ts">
/** The copies that are made by themselves: how many, from when, and whether a second folder gets them too. */
import { computed, onMounted, ref, shallowRef } from 'vue'

import { api, sentenceOf, type DataCopies } from '@/api/client'
import { dayAndTime } from '@/format'

const made = shallowRef<DataCopies>()
const problem = ref('')

onMounted(async () => {
  const { data, error } = await api.GET('/api/copies')
  made.value = data
  problem.value = error ? sentenceOf(error) : ''
})
const newest = computed(() => made.value?.copies[0])
</script>

<template>
  <section v-if="made || problem" aria-labelledby="copies">
    <h2 id="copies">Automatic copies</h2>
    <p v-if="problem || made?.problem" class="error-line" role="alert">{{ problem || made?.problem }}</p>
    <template v-if="made">
      <p>
        One is made at each start, and one every four hours while something changes. Each is read back before
        it counts. The six newest are kept, and every sixth of the older ones.
      </p>
      <p v-if="newest">
        <b>{{ made.copies.length }}</b> in <span class="font-mono text-small">{{ made.folder }}</span>, the
        newest <b>{{ newest.name }}</b>, made {{ dayAndTime(newest.made_at) }}.
      </p>
      <p v-else class="quiet">None yet.</p>
      <p v-if="made.second" class="quiet">
        Each goes into <span class="font-mono text-small">{{ made.second }}</span> as well.
      </p>
      <p v-else class="quiet">
        A disk that fails takes these with it:
        <b class="whitespace-nowrap">./spark serve --copies FOLDER</b> puts each on another disk or a stick as
        well.
      </p>
    </template>
  </section>
</template>
