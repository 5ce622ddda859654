<script setup lang="ts">
/** How to measure what the survey asks for, drawn and in steps; made to be printed and laid on the bench. */
import { nextTick, onMounted, shallowRef } from 'vue'
import { useRoute } from 'vue-router'

import { api, type Guide } from '@/api/client'
import GuidePicture from '@/drawings/GuidePicture.vue'
import PageFrame from '@/kit/PageFrame.vue'
import { t } from '@/words'

const route = useRoute()
const guides = shallowRef<Guide[]>([])
const print = () => window.print()

onMounted(async () => {
  document.title = t('How to measure · Pocket Spark')
  guides.value = (await api.GET('/api/guides')).data ?? []
  await nextTick()
  if (route.hash) document.getElementById(route.hash.slice(1))?.scrollIntoView()
})
</script>

<template>
  <PageFrame title="How to measure" :width="980">
    <nav
      v-if="guides.length"
      class="no-print flex flex-wrap items-center gap-y-4 gap-x-0 mx-0 my-10"
      aria-label="Measurements"
    >
      <a v-for="guide in guides" :key="guide.key" :href="`#${guide.key}`" class="link-button">{{
        guide.title
      }}</a>
      <ElButton @click="print">Print</ElButton>
    </nav>
    <article
      v-for="guide in guides"
      :id="guide.key"
      :key="guide.key"
      class="grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] gap-24 px-0 py-18 border-t border-line2 break-inside-avoid narrow:grid-cols-1"
      :aria-label="guide.title"
    >
      <div>
        <h2 class="text-ink text-large">{{ guide.title }}</h2>
        <p class="quiet">Gives {{ guide.gives }}. Needs: {{ guide.needs }}.</p>
        <ol class="mx-0 my-8 pl-[1.3em]">
          <li v-for="step in guide.steps" :key="step">{{ step }}</li>
        </ol>
        <p class="text-caution"><b>Beware:</b> {{ guide.beware }}</p>
      </div>
      <GuidePicture :picture="guide.picture" :label="`How it is joined up: ${guide.title}`" />
    </article>
  </PageFrame>
</template>
