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
  const kept = file && (await photos.add(file))
  if (kept) write(kept.id, text.value.trim() || kept.caption)
}
const photoOf = (id: number | null | undefined) => photos.photos.find((photo) => photo.id === id)

function write(photo_id: number | null = null, says = text.value.trim()): void {
  const at = `${new Date().toISOString().slice(0, 19)}Z`
  void conversion.addRow('logbook', { at, kind: kind.value, station: props.station, text: says, photo_id })
  text.value = ''
}
const when = (iso: string) => iso.slice(0, 16).replace('T', ' ')
</script>

<template>
  <section aria-label="Logbook">
    <h2 v-if="!bare">Logbook</h2>
    <form @submit.prevent="write()">
      <PickField v-model="kind" label="Kind of entry" :options="reference.tables!.entry_kinds" />
      <input
        v-model="text"
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
        class="visually-hidden"
        tabindex="-1"
        aria-label="Photograph for the logbook"
        @change="photograph"
      />
    </form>
    <p v-if="photos.problem" class="error-line" role="alert">{{ photos.problem }}</p>
    <ol v-if="entries.length">
      <li v-for="entry in entries" :key="entry.index">
        <span class="quiet">{{ when(entry.at) }}</span>
        <span class="kind" :title="entry.station ? `from ${entry.station}` : ''">{{
          reference.labelOf(reference.tables!.entry_kinds, entry.kind)
        }}</span>
        <span
          >{{ entry.text }}
          <img
            v-if="photoOf(entry.photo_id)"
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
        :href="`/api/projects/${conversion.stored.id}/export.zip?history=true&parts=true&runs=true&logs=true`"
        download
        >Save this conversion with its history, own parts, runs and logs</a
      >
    </p>
  </section>
</template>

<style scoped>
h2 {
  margin: 20px 0 6px;
}
form {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.el-button + .el-button {
  margin-left: 0;
}
input {
  height: 30px;
  padding: 0 8px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font: 14px var(--sans);
}
input {
  flex: 1;
  min-width: 180px;
}
ol {
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 146px 100px minmax(0, 1fr) 24px;
  gap: 8px;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
img {
  display: block;
  max-width: 160px;
  margin-top: 4px;
}
.kind {
  color: var(--copper);
}
@media (max-width: 600px) {
  li {
    grid-template-columns: auto minmax(0, 1fr) 24px;
  }
  li > :nth-child(3) {
    grid-row: 2;
    grid-column: 1 / -1;
  }
}
</style>
