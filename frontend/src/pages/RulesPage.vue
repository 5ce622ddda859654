<script setup lang="ts">
/** Every check the tool makes: its code, what it watches, and on what authority. */
import { onMounted } from 'vue'
import { useRoute } from 'vue-router'

import PageFrame from '@/kit/PageFrame.vue'
import { useReference } from '@/stores/reference'

const reference = useReference()
const route = useRoute()

onMounted(() => {
  document.title = 'What is checked · Pocket Spark'
  if (route.hash) document.getElementById(route.hash.slice(1))?.scrollIntoView()
})
</script>

<template>
  <PageFrame title="What is checked" :width="920">
    <p class="quiet">
      Each finding carries one of these codes. Local rules and the gadget's maker prevail over all of them.
    </p>
    <section v-for="station in reference.tables!.stations" :key="station.value">
      <h2>{{ station.label }}</h2>
      <dl>
        <div
          v-for="rule in reference.tables!.rules.filter((rule) => rule.station === station.value)"
          :id="rule.code"
          :key="rule.code"
        >
          <dt>{{ rule.code }}</dt>
          <dd>
            {{ rule.watches }}
            <code v-if="rule.formula">{{ rule.formula }}</code>
            <small v-if="rule.limits">limits: {{ rule.limits }}</small>
            <small>source: {{ rule.source }}</small>
          </dd>
        </div>
      </dl>
    </section>
  </PageFrame>
</template>

<style scoped>
h2 {
  margin: 22px 0 4px;
}
dl {
  margin: 0;
}
dl div {
  display: grid;
  grid-template-columns: 270px 1fr;
  gap: 16px;
  padding: 7px 0;
  border-bottom: 1px solid var(--line);
}
dl div:target {
  background: var(--copperwash);
}
dt {
  font-family: var(--mono);
  font-size: 13px;
}
dd {
  margin: 0;
}
code {
  display: block;
  margin: 2px 0;
  font: 13px var(--mono);
}
small {
  display: block;
  color: var(--ink2);
}
@media (max-width: 600px) {
  dl div {
    grid-template-columns: 1fr;
    gap: 2px;
  }
}
</style>
