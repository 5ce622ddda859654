<script setup lang="ts">
/** How to measure what the survey asks for, drawn and in steps; made to be printed and laid on the bench. */
import { nextTick, onMounted, shallowRef } from 'vue'
import { useRoute } from 'vue-router'

import { api, type Guide } from '@/api/client'
import GuidePicture from '@/drawings/GuidePicture.vue'
import PageFrame from '@/kit/PageFrame.vue'

const route = useRoute()
const guides = shallowRef<Guide[]>([])
const print = () => window.print()

onMounted(async () => {
  document.title = 'How to measure · Pocket Spark'
  guides.value = (await api.GET('/api/guides')).data ?? []
  await nextTick()
  if (route.hash) document.getElementById(route.hash.slice(1))?.scrollIntoView()
})
</script>

<template>
  <PageFrame title="How to measure" :width="980">
    <nav class="no-print" aria-label="Measurements">
      <a v-for="guide in guides" :key="guide.key" :href="`#${guide.key}`" class="link-button">{{
        guide.title
      }}</a>
      <ElButton @click="print">Print</ElButton>
    </nav>
    <article v-for="guide in guides" :id="guide.key" :key="guide.key" :aria-label="guide.title">
      <div>
        <h2>{{ guide.title }}</h2>
        <p class="quiet">Gives {{ guide.gives }}. Needs: {{ guide.needs }}.</p>
        <ol>
          <li v-for="step in guide.steps" :key="step">{{ step }}</li>
        </ol>
        <p class="beware"><b>Beware:</b> {{ guide.beware }}</p>
      </div>
      <GuidePicture :picture="guide.picture" :label="`How it is joined up: ${guide.title}`" />
    </article>
  </PageFrame>
</template>

<style scoped>
nav {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 0;
  margin: 10px 0;
}
article {
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
  gap: 24px;
  padding: 18px 0;
  border-top: 1px solid var(--line2);
  break-inside: avoid;
}
h2 {
  color: var(--ink);
  font-size: 16px;
}
ol {
  margin: 8px 0;
  padding-left: 1.3em;
}
.beware {
  color: var(--caution);
}
@media (max-width: 860px) {
  article {
    grid-template-columns: 1fr;
  }
}
</style>
