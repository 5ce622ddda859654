<script setup lang="ts">
/** The logbook: dated lines from every station, newest first. */
import { computed, ref } from 'vue'

import PickField from '@/kit/PickField.vue'
import { useOpenPhotos } from '@/composables/useOpenPhotos'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

const props = defineProps<{ station: string; bare?: boolean }>()
const conversion = useConversion()
const reference = useReference()
const kind = ref('note')
const text = ref('')
const photos = useOpenPhotos()
const picker = ref<HTMLInputElement>()

const entries = computed(() =>
  (conversion.document?.logbook ?? []).map((entry, index) => ({ ...entry, index })).reverse(),
)

async function photograph(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  await conversion.within(async () => {
    const kept = file && (await photos.add(file))
    if (kept) write(kept.id, text.value.trim() || kept.caption)
  })
}
const photoOf = (id: unknown) => photos.photos.find((photo) => photo.id === id)

function write(photo_id: number | null = null, says = text.value.trim()): void {
  const at = `${new Date().toISOString().slice(0, 19)}Z`
  void conversion.addRow('logbook', { at, kind: kind.value, station: props.station, text: says, photo_id })
  text.value = ''
}
const when = (iso: string) => iso.slice(0, 16).replace('T', ' ')
</script>

<template>
  <section aria-label="Logbook">
    <h2 v-if="!bare" class="mx-0 mt-20 mb-6">Logbook</h2>
    <form class="flex flex-wrap gap-8" @submit.prevent="write()">
      <PickField v-model="kind" label="Kind of entry" :options="reference.tables!.entry_kinds" />
      <input
        v-model="text"
        class="flex-1 h-30 min-w-180 px-8 py-0 framed bg-sheet text-ink text-body font-sans"
        aria-label="What happened"
        placeholder="second socket hole filed 0.4 mm wider"
        maxlength="1000"
      />
      <ElButton native-type="submit" size="small" :disabled="!text.trim()">Write it down</ElButton>
      <ElButton size="small" @click="picker?.click()">With a photograph …</ElButton>
      <input
        ref="picker"
        type="file"
        accept="image/*"
        class="visually-hidden flex-1 h-30 min-w-180 px-8 py-0 framed bg-sheet text-ink text-body font-sans"
        tabindex="-1"
        aria-label="Photograph for the logbook"
        @change="photograph"
      />
    </form>
    <p v-if="photos.problem" class="error-line" role="alert">{{ photos.problem }}</p>
    <ol v-if="entries.length" class="mx-0 mt-8 mb-0 p-0 list-none">
      <li
        v-for="entry in entries"
        :key="entry.index"
        class="grid grid-cols-[146px_100px_minmax(0,1fr)_24px] gap-8 px-0 py-4 border-b border-line narrow:grid-cols-[auto_minmax(0,1fr)_24px]"
      >
        <span class="quiet">{{ when(entry.at) }}</span>
        <span class="text-copper" :title="entry.station ? `from ${entry.station}` : ''">{{
          reference.labelOf(reference.tables!.entry_kinds, entry.kind)
        }}</span>
        <span
          >{{ entry.text }}
          <img
            v-if="photoOf(entry.photo_id)"
            class="block max-w-160 mt-4"
            :src="photos.pixels(photoOf(entry.photo_id)!, 'thumbnail')"
            :alt="entry.text"
        /></span>
        <button
          type="button"
          class="bare"
          :aria-label="`Strike out entry ${entry.index + 1}`"
          @click="conversion.removeRow('logbook', entry.index)"
        >
          ×
        </button>
      </li>
    </ol>
    <p v-if="conversion.stored" class="small">
      <a
        class="tap"
        :href="`/api/projects/${conversion.stored.id}/export.zip?history=true&parts=true&runs=true&logs=true`"
        download
        >Save this conversion with its history, own parts, runs and logs</a
      >
    </p>
  </section>
</template>

<style scoped>
.el-button + .el-button {
  margin-left: 0;
}
@media (max-width: 600px) {
  li > :nth-child(3) {
    grid-row: 2;
    grid-column: 1 / -1;
  }
}
</style>
