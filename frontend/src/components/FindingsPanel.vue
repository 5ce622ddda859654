<script setup lang="ts">
/** Every finding, stops first, each with its working and source a touch away. */
import { computed, ref } from 'vue'

import type { Finding, Station } from '@/api/client'
import LevelMark from '@/kit/LevelMark.vue'
import MeasureNext from '@/components/MeasureNext.vue'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ findings: readonly Finding[]; cautions: readonly string[]; workings: boolean }>()
const emit = defineEmits<{ go: [station: Station] }>()
const conversion = useConversion()

const opened = ref(new Set<string>())
const passesShown = ref(false)

const open = computed(() => props.findings.filter((finding) => finding.level !== 'pass'))
const passes = computed(() => props.findings.filter((finding) => finding.level === 'pass'))

const summary = computed(() => {
  const count = (level: string) => props.findings.filter((finding) => finding.level === level).length
  const words = [
    [count('stop'), 'stop'],
    [count('caution'), 'caution'],
    [count('note'), 'note'],
  ] as const
  const said = words.filter(([n]) => n > 0).map(([n, word]) => `${n} ${word}${n === 1 ? '' : 's'}`)
  return said.join(' · ') || 'Nothing against it'
})

/** Several findings may share one remedy: its button stands with the gravest of them. */
const offered = computed(() => {
  const labels = new Set<string>()
  const first = open.value.filter(
    ({ remedy }) => remedy && !labels.has(remedy.label) && labels.add(remedy.label),
  )
  return new Set(first.map((finding) => finding.id))
})

function toggle(finding: Finding): void {
  const now = new Set(opened.value)
  if (!now.delete(finding.id)) now.add(finding.id)
  opened.value = now
}
</script>

<template>
  <section class="findings px-16 pt-14 pb-24" aria-label="Findings" tabindex="-1">
    <header>
      <strong class="font-semibold text-ink2" role="status">{{ summary }}</strong>
    </header>
    <ul class="mx-0 mt-6 mb-0 p-0 list-none">
      <li
        v-for="finding in open"
        :key="finding.id"
        class="grid grid-cols-[14px_minmax(0,1fr)] gap-12 px-0 py-9 border-b border-line"
        :class="finding.level"
        :data-code="finding.code"
      >
        <LevelMark :level="finding.level" />
        <div>
          <button
            type="button"
            class="bare w-full leading-[1.35] hover:underline hover:decoration-line2 hover:underline-offset-[3px]"
            :aria-expanded="workings || opened.has(finding.id)"
            @click="toggle(finding)"
          >
            {{ finding.headline }}<em v-if="finding.assumed" class="assumed">assumed</em>
          </button>
          <div v-if="workings || opened.has(finding.id)" class="mt-4 text-ink2 text-small leading-[1.4]">
            <p v-if="finding.working">{{ finding.working }}</p>
            <p class="source mt-2 text-fine">
              {{ finding.source }} ·
              <RouterLink :to="`/rules#${finding.code}`">{{ finding.code }}</RouterLink>
            </p>
          </div>
          <button
            v-if="finding.remedy && offered.has(finding.id)"
            type="button"
            class="mt-6 px-9 py-2 border border-copper rounded bg-transparent text-copper font-semibold cursor-pointer hover:bg-copperwash"
            @click="conversion.apply(finding.remedy)"
          >
            {{ finding.remedy.label }}
          </button>
        </div>
      </li>
    </ul>
    <button
      v-if="passes.length"
      type="button"
      class="bare flex items-center gap-8 px-0 py-10 text-ink2"
      :aria-expanded="passesShown"
      @click="passesShown = !passesShown"
    >
      <LevelMark level="pass" :size="12" /> {{ passes.length }} checked and fine
      <span aria-hidden="true">{{ passesShown ? '−' : '+' }}</span>
    </button>
    <ul v-if="passesShown" class="mx-0 mt-6 mb-0 p-0 list-none">
      <li
        v-for="finding in passes"
        :key="finding.id"
        class="grid grid-cols-[14px_minmax(0,1fr)] gap-12 px-0 py-5 border-b border-line text-ink2 text-small"
      >
        <LevelMark level="pass" :size="12" />
        <div>
          {{ finding.headline }}<em v-if="finding.assumed" class="assumed">assumed</em>
          <p v-if="workings && finding.working" class="mt-4 text-ink2 text-small leading-[1.4]">
            {{ finding.working }}
          </p>
        </div>
      </li>
    </ul>
    <MeasureNext @go="emit('go', $event)" />
    <footer class="mt-18 px-12 py-10 rounded bg-sunk text-small text-ink2">
      <h2>Cautions</h2>
      <p v-for="caution in cautions" :key="caution" class="mt-5">{{ caution }}</p>
    </footer>
  </section>
</template>

<style scoped>
li > .mark {
  margin-top: 3px;
}
.assumed {
  margin-left: 6px;
  padding: 0 5px;
  border: 1px dashed var(--caution);
  border-radius: 8px;
  color: var(--caution);
  font-size: 12px;
  font-style: normal;
  white-space: nowrap;
}
</style>
