<script setup lang="ts">
/** One conversion: the chain across the top, stations on the left, findings on the right, the station between. */
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { Station } from '@/api/client'
import ConflictBar from '@/pages/conversion/ConflictBar.vue'
import FindingsPanel from '@/pages/conversion/FindingsPanel.vue'
import FrameHeader from '@/pages/conversion/FrameHeader.vue'
import HelpDialog from '@/pages/conversion/HelpDialog.vue'
import JumpDialog from '@/pages/conversion/JumpDialog.vue'
import LogBook from '@/components/LogBook.vue'
import PowerPath from '@/pages/conversion/PowerPath.vue'
import StaleBar from '@/pages/conversion/StaleBar.vue'
import StationStrip from '@/pages/conversion/StationStrip.vue'
import VerdictLine from '@/pages/conversion/VerdictLine.vue'
import TourCard from '@/pages/conversion/TourCard.vue'
import { useEver } from '@/composables/useEver'
import { useOneByOne } from '@/composables/useOneByOne'
import { useShortcuts } from '@/composables/useShortcuts'
import { STATION_COMPONENTS } from '@/stations/stations'
import { useConversion } from '@/stores/conversion'
import { useInventory } from '@/stores/inventory'
import { useProjects } from '@/stores/projects'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const props = defineProps<{ id: number; station: string }>()
const conversion = useConversion()
const projects = useProjects()
const reference = useReference()
const inventory = useInventory()
const router = useRouter()

const helpShown = ref(false)
const jumpShown = ref(false)
const findingsShown = ref(false)
const logbookShown = ref(false)
const workings = ref(false)

const stations = computed(() => reference.tables!.stations.map((station) => station.value))
/** A page of its own before the stations: what they all come to. */
const VERDICT = 'verdict'
const current = computed<Station>(
  () => [VERDICT, ...stations.value].find((s) => s === props.station) ?? 'survey',
)
/** All at once: the chain above and the findings beside would push aside what is read already. */
const ready = computed(
  () =>
    conversion.document &&
    conversion.stored?.id === props.id &&
    (conversion.assessment || conversion.problem || conversion.stale),
)

/** Station, findings, and the tour's card over them. */
const made = useOneByOne(() => Boolean(ready.value), 3)
const [helpMade, jumpMade, findingsMade, logbookMade] = [
  helpShown,
  jumpShown,
  findingsShown,
  logbookShown,
].map(useEver)

watch(
  () => props.id,
  async (id) => {
    if (await conversion.open(id)) return
    projects.problem = conversion.problem
    await router.replace('/')
  },
  { immediate: true },
)
// Own parts that another window has changed.
watch(
  () => conversion.elsewhere.parts,
  (_, before) => before && inventory.load(),
)
watch(
  () => conversion.document?.gadget.name,
  (name) => (document.title = name ? t('{name} · Pocket Spark', { name }) : 'Pocket Spark'),
)

function go(station: Station): void {
  void router.push(`/conversion/${props.id}/${station}`)
}

function toFindings(): void {
  if (window.innerWidth <= 860) findingsShown.value = !findingsShown.value
  else document.querySelector<HTMLElement>('.findings')?.focus()
}

useShortcuts({
  ...Object.fromEntries(
    Array.from({ length: 8 }, (_, i) => [String(i + 1), () => stations.value[i] && go(stations.value[i])]),
  ),
  '0': () => go(VERDICT),
  '/': () => (jumpShown.value = true),
  '?': () => (helpShown.value = true),
  w: () => (workings.value = !workings.value),
  l: toFindings,
  b: () => (logbookShown.value = true),
  'ctrl+z': () => void conversion.undo(),
  'ctrl+shift+z': () => void conversion.redo(),
  'ctrl+y': () => void conversion.redo(),
})

// Leaving the page must not lose the last half second of typing.
useEventListener(window, 'beforeunload', (event) => {
  if (conversion.unsaved && !conversion.conflict) {
    void conversion.save()
    event.preventDefault()
  }
})
</script>

<template>
  <div
    v-if="ready"
    class="flex flex-col h-full narrow:h-auto narrow:min-h-full"
    :class="{ stale: conversion.stale }"
  >
    <FrameHeader @help="helpShown = true" @logbook="logbookShown = true" />
    <ConflictBar />
    <StaleBar />
    <PowerPath
      v-if="conversion.assessment"
      class="chain"
      :path="conversion.assessment.path"
      :station="current"
      @go="go"
    />
    <div class="grid flex-1 grid-cols-[132px_minmax(0,1fr)_316px] min-h-0 narrow:block">
      <StationStrip
        :first="VERDICT"
        :stations="stations"
        :current="current"
        :levels="conversion.assessment?.stations"
        :worst="conversion.assessment?.findings[0]?.level"
        @go="go"
        @findings="findingsShown = true"
      />
      <main :key="current" class="station">
        <VerdictLine v-if="current !== VERDICT" />
        <component :is="STATION_COMPONENTS[current]" v-if="made >= 1" />
      </main>
      <aside
        v-if="conversion.assessment"
        class="side border-l border-line bg-sheet overflow-y-auto narrow:hidden"
      >
        <FindingsPanel
          v-if="made >= 2"
          :findings="conversion.assessment.findings"
          :cautions="conversion.assessment.cautions ?? []"
          :station="current"
          :workings="workings"
          @go="go"
        />
      </aside>
    </div>
    <template v-if="made >= 3">
      <ElDrawer
        v-if="findingsMade"
        v-model="findingsShown"
        direction="btt"
        size="80%"
        title="Findings"
        class="findings-drawer"
      >
        <FindingsPanel
          v-if="conversion.assessment && findingsShown"
          :findings="conversion.assessment.findings"
          :cautions="conversion.assessment.cautions ?? []"
          :station="current"
          :workings="workings"
          @go="go"
        />
      </ElDrawer>
      <ElDrawer
        v-if="logbookMade"
        v-model="logbookShown"
        size="min(560px, 94vw)"
        title="Logbook"
        class="logbook-drawer"
      >
        <LogBook v-if="logbookShown" :station="current" bare />
      </ElDrawer>
      <HelpDialog v-if="helpMade" v-model="helpShown" />
      <JumpDialog v-if="jumpMade" v-model="jumpShown" />
      <TourCard :station="current" @go="go" />
    </template>
  </div>
</template>

<style scoped>
.station {
  /* Hidden file inputs are placed in here, not under the page. */
  position: relative;
  min-width: 0;
  padding: 14px 20px 28px;
  overflow-y: auto;
}
/* Fields stay clear: what is typed in them is today's. */
.stale :is(.chain, .side, .strip),
.stale
  .station
  :deep(
    :is(svg, canvas, output, h1, h2, h3, p, table, dl, ul, ol, .answer):not(:has(input, select, textarea))
  ) {
  opacity: 0.35;
  filter: grayscale(1);
}
@media (max-width: 860px) {
  .station {
    min-height: 100vh;
    padding: 14px;
    overflow: visible;
  }
  /* Nothing ends under the bar of stations. */
  .chain {
    order: 2;
    margin-bottom: 96px;
    border-top: 1px solid var(--line);
  }
}
</style>
