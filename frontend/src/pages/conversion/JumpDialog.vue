<script setup lang="ts">
/** Find by typing: a station, a cell of the library to look at, or another conversion. */
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import { useNewest } from '@/composables/useNewest'
import { useConversion } from '@/stores/conversion'
import { useProjects } from '@/stores/projects'
import { useReference } from '@/stores/reference'

/** As many as are shown. */
const MOST = 9

const shown = defineModel<boolean>({ required: true })
const router = useRouter()
const conversion = useConversion()
const projects = useProjects()
const reference = useReference()

const words = ref('')
const at = ref(0)
const field = ref<HTMLInputElement>()

interface Place {
  kind: string
  name: string
  go: () => unknown
}

const stations = computed<Place[]>(() =>
  reference.tables!.stations.map((station) => ({
    kind: 'station',
    name: station.label,
    go: () => router.push(`/conversion/${conversion.stored!.id}/${station.value}`),
  })),
)
const cells = computed<Place[]>(() =>
  reference.cells.map((part) => ({
    kind: 'cell',
    name: part.cell!.name ?? part.id,
    go: () =>
      router.push({ path: `/conversion/${conversion.stored!.id}/cell`, query: { find: part.cell!.name } }),
  })),
)

/** The shelf may be long: the server looks for those. */
const conversions = shallowRef<Place[]>([])
const newest = useNewest()
async function look(): Promise<void> {
  const wanted = words.value.replace(/\bconversion\b/gi, '').trim()
  const lines = await newest(projects.find(wanted, MOST))
  if (!lines) return
  conversions.value = lines.map((line) => ({
    kind: 'conversion',
    name: line.name,
    go: () => router.push(`/conversion/${line.id}`),
  }))
}

const found = computed(() => {
  const wanted = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  const matches = (place: Place) =>
    wanted.every((word) => `${place.kind} ${place.name}`.toLowerCase().includes(word))
  const near = [
    ...stations.value.filter(matches),
    ...conversions.value.filter(matches),
    ...cells.value.filter(matches),
  ]
  return near.slice(0, MOST)
})

watch(
  shown,
  async (open) => {
    if (!open) return
    words.value = ''
    at.value = 0
    void look()
    await nextTick()
    field.value?.focus()
  },
  { immediate: true },
)
watch(words, () => {
  at.value = 0
  void look()
})

function go(place: Place | undefined): void {
  if (!place) return
  shown.value = false
  void place.go()
}

function move(by: number): void {
  at.value = (at.value + by + found.value.length) % Math.max(found.value.length, 1)
}
</script>

<template>
  <ElDialog v-model="shown" title="Find" width="min(460px, 94vw)" @opened="field?.focus()">
    <input
      ref="field"
      v-model="words"
      class="w-full px-10 py-7 framed bg-paper text-ink text-body font-sans"
      aria-label="Find a station, a conversion or a cell"
      placeholder="cell 18650, charge, moth …"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter.prevent="go(found[at])"
    />
    <ul class="min-h-300 mx-0 mt-10 mb-0 p-0 list-none">
      <li v-for="(place, index) in found" :key="place.kind + place.name">
        <button
          class="flex justify-between w-full px-10 py-6 rounded current:bg-copperwash"
          type="button"
          :class="['bare', { 'is-current': index === at }]"
          @click="go(place)"
        >
          <span>{{ place.name }}</span><small class="text-ink2">{{ place.kind }}</small>
        </button>
      </li>
      <li v-if="!found.length" class="quiet">Nothing of that name.</li>
    </ul>
  </ElDialog>
</template>
