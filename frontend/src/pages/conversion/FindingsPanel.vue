<script setup lang="ts">
/** Every finding, each cause once: stops first, then those of this station; the cautions of the work in hand. */
import { computed, ref } from 'vue'

import type { Caution, Finding, Station } from '@/api/client'
import FindingLine from '@/pages/conversion/FindingLine.vue'
import LevelMark from '@/kit/LevelMark.vue'
import MeasureNext from '@/pages/conversion/MeasureNext.vue'
import { byCause, type Cause } from '@/findings'
import { unbroken } from '@/format'
import { t } from '@/words'

const props = defineProps<{
  findings: readonly Finding[]
  cautions: readonly Caution[]
  station: Station
  workings: boolean
}>()
const emit = defineEmits<{ go: [station: Station] }>()

const opened = ref(new Set<string>())
const passesShown = ref(false)

const causes = computed(() => byCause(props.findings).sort((one, other) => turnOf(one) - turnOf(other)))
/** Stops, then what is said of this station, then the rest; in each as they come, gravest first. */
function turnOf({ finding, others }: Cause): number {
  if (finding.level === 'stop') return 0
  return [finding, ...others].some((one) => one.station === props.station) ? 1 : 2
}
const cautionsHere = computed(() =>
  props.cautions.filter(({ stations }) => stations.some((one) => one === props.station)),
)
const passes = computed(() => props.findings.filter((finding) => finding.level === 'pass'))

const summary = computed(() => {
  const count = (level: string) => causes.value.filter(({ finding }) => finding.level === level).length
  const words = [
    [count('stop'), t('1 stop'), t('{count} stops', { count: count('stop') })],
    [count('caution'), t('1 caution'), t('{count} cautions', { count: count('caution') })],
    [count('note'), t('1 note'), t('{count} notes', { count: count('note') })],
  ] as const
  const said = words.filter(([n]) => n > 0).map(([n, one, many]) => (n === 1 ? one : many))
  return said.join(' · ') || t('Nothing against it')
})

/** Several findings may share one remedy: its button stands with the gravest of them. */
const offered = computed(() => {
  const labels = new Set<string>()
  const all = causes.value.flatMap(({ finding, others }) => [finding, ...others])
  const first = all.filter(({ remedy }) => remedy && !labels.has(remedy.label) && labels.add(remedy.label))
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
      <FindingLine
        v-for="{ finding, others } in causes"
        :key="finding.id"
        :finding="finding"
        :others="others"
        :opened="workings || opened.has(finding.id)"
        :offered="offered"
        @toggle="toggle(finding)"
      />
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
          {{ unbroken(finding.headline) }}<em v-if="finding.assumed" class="assumed">assumed</em>
          <p v-if="workings && finding.working" class="mt-4 text-ink2 text-small leading-[1.4]">
            {{ finding.working }}
          </p>
        </div>
      </li>
    </ul>
    <MeasureNext @go="emit('go', $event)" />
    <footer class="mt-18 px-12 py-10 rounded bg-sunk text-small text-ink2">
      <h2>Cautions</h2>
      <p v-for="caution in cautionsHere" :key="caution.text" class="mt-5">{{ caution.text }}</p>
    </footer>
  </section>
</template>

<style scoped>
li > .mark {
  margin-top: 3px;
}
</style>
