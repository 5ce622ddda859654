<script setup lang="ts">
/** The words of the job, each in one sentence, with the other names they are sold under. */
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'

import PageFrame from '@/kit/PageFrame.vue'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const reference = useReference()
const route = useRoute()
const find = ref('')
const terms = computed(() => {
  const wanted = find.value.trim().toLowerCase()
  return reference.tables!.glossary.filter(({ term, also, sentence }) =>
    [term, sentence, ...also].join(' ').toLowerCase().includes(wanted),
  )
})
const anchor = (term: string) => term.toLowerCase().replaceAll(' ', '-')

onMounted(() => {
  document.title = t('Words of the job · Pocket Spark')
  if (route.hash) document.getElementById(route.hash.slice(1))?.scrollIntoView()
})
</script>

<template>
  <PageFrame title="Words of the job" :width="820">
    <input
      v-model="find"
      class="text-input mt-10"
      size="36"
      aria-label="Find a word"
      placeholder="find: PROG, BMS, float voltage …"
    />
    <dl class="ruled-list">
      <div v-for="term in terms" :id="anchor(term.term)" :key="term.term">
        <dt>{{ term.term }}</dt>
        <dd>
          {{ term.sentence }}
          <small v-if="term.also.length" class="quiet">also: {{ term.also.join(', ') }}</small>
        </dd>
      </div>
    </dl>
    <p v-if="!terms.length" class="quiet">No word like that is in the list.</p>
    <p class="quiet small">
      Pocket Spark ships with other people's packages and fonts: <a href="/licences.txt">their licences</a>.
    </p>
  </PageFrame>
</template>
