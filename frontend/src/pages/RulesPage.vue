<script setup lang="ts">
/** Every check the tool makes: its code, what it watches, and on what authority. */
import { onMounted } from 'vue'
import { useRoute } from 'vue-router'

import PageFrame from '@/kit/PageFrame.vue'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const reference = useReference()
const route = useRoute()

onMounted(() => {
  document.title = t('What is checked · Pocket Spark')
  if (route.hash) document.getElementById(route.hash.slice(1))?.scrollIntoView()
})
</script>

<template>
  <PageFrame title="What is checked" :width="920">
    <p class="quiet">
      Each finding carries one of these codes. Local rules and the gadget's maker prevail over all of them.
      <RouterLink to="/accuracy">How far its figures were off</RouterLink>, in builds that were measured.
    </p>
    <section v-for="station in reference.tables!.stations" :key="station.value">
      <h2 class="mx-0 mt-22 mb-4">{{ station.label }}</h2>
      <dl class="m-0">
        <div
          v-for="rule in reference.tables!.rules.filter((rule) => rule.station === station.value)"
          :id="rule.code"
          :key="rule.code"
          class="grid grid-cols-[270px_1fr] gap-16 px-0 py-7 border-b border-line narrow:gap-2 narrow:grid-cols-1"
        >
          <dt class="font-mono text-small">{{ rule.code }}</dt>
          <dd class="m-0">
            {{ rule.watches }}
            <code v-if="rule.formula" class="block mx-0 my-2 text-small font-mono">{{ rule.formula }}</code>
            <span class="block">Do: {{ rule.what_to_do }}</span>
            <small v-if="rule.limits" class="block text-ink2">limits: {{ rule.limits }}</small>
            <small class="block text-ink2">source: {{ rule.source }}</small>
          </dd>
        </div>
      </dl>
    </section>
  </PageFrame>
</template>

<style scoped>
dl div:target {
  background: var(--copperwash);
}
</style>
