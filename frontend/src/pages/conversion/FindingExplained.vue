<script setup lang="ts">
/** What a finding means, why, what to do about it, and a picture of the measurement that settles it. */
import { computed, onMounted } from 'vue'

import type { Finding } from '@/api/client'
import GuidePicture from '@/drawings/GuidePicture.vue'
import { useReference } from '@/stores/reference'

const props = defineProps<{ findings: readonly Finding[] }>()
const reference = useReference()

const rules = computed(() =>
  props.findings.map((finding) => ({
    finding,
    rule: reference.tables!.rules.find((rule) => rule.code === finding.code),
  })),
)
const guide = computed(() => {
  const keys = rules.value.map(({ rule }) => rule?.guide)
  return reference.guides.find((guide) => keys.includes(guide.key))
})
onMounted(reference.loadGuides)
</script>

<template>
  <div class="mt-6 mb-2 text-ink2 text-small leading-[1.4]">
    <p class="m-0 text-ink"><b>Do:</b> {{ rules[0]?.rule?.what_to_do }}</p>
    <RouterLink v-if="guide" :to="`/measuring#${guide.key}`" target="_blank" class="block my-6">
      <GuidePicture :picture="guide.picture" :label="`How it is joined up: ${guide.title}`" />
      {{ guide.title }}
    </RouterLink>
    <div v-for="{ finding, rule } in rules" :key="finding.id" class="mt-6">
      <p class="m-0">{{ rule?.watches }}</p>
      <p v-if="finding.working" class="m-0 mt-2">{{ finding.working }}</p>
      <p class="m-0 mt-2 text-fine">
        <template v-if="rule?.limits">limits: {{ rule.limits }} · </template>{{ finding.source }} ·
        <RouterLink :to="`/rules#${finding.code}`">{{ finding.code }}</RouterLink>
      </p>
    </div>
  </div>
</template>
