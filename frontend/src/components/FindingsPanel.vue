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
  <section class="findings" aria-label="Findings" tabindex="-1">
    <header>
      <strong role="status">{{ summary }}</strong>
    </header>
    <ul>
      <li v-for="finding in open" :key="finding.id" :class="finding.level" :data-code="finding.code">
        <LevelMark :level="finding.level" />
        <div>
          <button
            type="button"
            class="bare headline"
            :aria-expanded="workings || opened.has(finding.id)"
            @click="toggle(finding)"
          >
            {{ finding.headline }}<em v-if="finding.assumed" class="assumed">assumed</em>
          </button>
          <div v-if="workings || opened.has(finding.id)" class="working">
            <p v-if="finding.working">{{ finding.working }}</p>
            <p class="source">
              {{ finding.source }} ·
              <RouterLink :to="`/rules#${finding.code}`">{{ finding.code }}</RouterLink>
            </p>
          </div>
          <button
            v-if="finding.remedy && offered.has(finding.id)"
            type="button"
            class="apply"
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
      class="bare passes"
      :aria-expanded="passesShown"
      @click="passesShown = !passesShown"
    >
      <LevelMark level="pass" :size="12" /> {{ passes.length }} checked and fine
      <span aria-hidden="true">{{ passesShown ? '−' : '+' }}</span>
    </button>
    <ul v-if="passesShown" class="folded">
      <li v-for="finding in passes" :key="finding.id">
        <LevelMark level="pass" :size="12" />
        <div>
          {{ finding.headline }}<em v-if="finding.assumed" class="assumed">assumed</em>
          <p v-if="workings && finding.working" class="working">{{ finding.working }}</p>
        </div>
      </li>
    </ul>
    <MeasureNext @go="emit('go', $event)" />
    <footer>
      <h2>Cautions</h2>
      <p v-for="caution in cautions" :key="caution">{{ caution }}</p>
    </footer>
  </section>
</template>

<style scoped>
.findings {
  padding: 14px 16px 24px;
}
header strong {
  font-weight: 600;
  color: var(--ink2);
}
ul {
  margin: 6px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 14px minmax(0, 1fr);
  gap: 12px;
  padding: 9px 0;
  border-bottom: 1px solid var(--line);
}
li > .mark {
  margin-top: 3px;
}
.headline {
  width: 100%;
  line-height: 1.35;
}
.headline:hover {
  text-decoration: underline;
  text-decoration-color: var(--line2);
  text-underline-offset: 3px;
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
.working {
  margin-top: 4px;
  color: var(--ink2);
  font-size: 13px;
  line-height: 1.4;
}
.source {
  margin-top: 2px;
  font-size: 12px;
}
.apply {
  margin-top: 6px;
  padding: 2px 9px;
  border: 1px solid var(--copper);
  border-radius: 3px;
  background: none;
  color: var(--copper);
  font-weight: 600;
  cursor: pointer;
}
.apply:hover {
  background: var(--copperwash);
}
.passes {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 10px 0;
  color: var(--ink2);
}
.folded li {
  padding: 5px 0;
  color: var(--ink2);
  font-size: 13px;
}
footer {
  margin-top: 18px;
  padding: 10px 12px;
  background: var(--sunk);
  border-radius: 3px;
  font-size: 12.5px;
  color: var(--ink2);
}
footer p {
  margin-top: 5px;
}
</style>
