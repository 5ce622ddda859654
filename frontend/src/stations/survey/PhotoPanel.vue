<script setup lang="ts">
/** Photographs before anything is unsoldered: attach, turn, note on a spot, and read lengths off them. */
import { computed, ref } from 'vue'

import type { StoredPhoto } from '@/api/client'
import PhotoBench from '@/stations/survey/PhotoBench.vue'
import { useOpenPhotos } from '@/composables/useOpenPhotos'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const photos = useOpenPhotos()
const conversion = useConversion()
const picker = ref<HTMLInputElement>()
const openId = ref<number>()
const open = computed(() => photos.photos.find((photo) => photo.id === openId.value))

async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  await conversion.within(async () => {
    for (const file of input.files ?? []) {
      const kept = await photos.add(file)
      if (kept) openId.value = kept.id
    }
  })
  input.value = ''
}

const counted = (photo: StoredPhoto) => {
  const lengths = photo.lengths.length ? t('{length} lengths', { length: photo.lengths.length }) : ''
  const remarks = photo.marks.remarks?.length
    ? t('{length} notes', { length: photo.marks.remarks.length })
    : ''
  return [lengths, remarks].filter(Boolean).join(', ')
}
</script>

<template>
  <section aria-label="Photographs">
    <h2 class="mx-0 mt-16 mb-6">Photographs, before anything is unsoldered</h2>
    <p v-if="photos.problem" class="error-line" role="alert">{{ photos.problem }}</p>
    <div class="row flex flex-wrap gap-10">
      <button
        v-for="photo in photos.photos"
        :key="photo.id"
        type="button"
        class="bare w-128 text-small leading-[1.25]"
        @click="openId = photo.id"
      >
        <img
          class="block w-128 h-92 framed object-cover"
          :src="photos.pixels(photo, 'thumbnail')"
          :alt="photo.caption"
        />
        <span class="block text-ellipsis whitespace-nowrap overflow-hidden">{{ photo.caption }}</span>
        <small class="text-ink2">{{ counted(photo) }}</small>
      </button>
      <button type="button" class="bare add hover:bg-copperwash" @click="picker?.click()">
        <span aria-hidden="true">+</span>
        photograph
      </button>
      <input
        ref="picker"
        type="file"
        accept="image/jpeg,image/png,image/webp"
        multiple
        class="visually-hidden"
        tabindex="-1"
        aria-label="Photographs to attach"
        @change="take"
      />
    </div>
    <p v-if="!photos.photos.length" class="quiet small max-w-[52em] mt-6">
      Both sides, every wire, the battery bay with a ruler beside it: lengths can be read off it later. What
      the camera writes into a file (place, date) is taken out.
    </p>
    <p v-else class="small max-w-[52em] mt-6">
      <a :href="`/api/projects/${conversion.stored?.id}/export.zip`" download
        >Export the conversion with its photographs</a
      >, as a zip; your conversions import it again.
    </p>
    <PhotoBench v-if="open" :key="`${open.id} ${open.width}`" :photo="open" @close="openId = undefined" />
  </section>
</template>

<style scoped>
.add {
  display: grid;
  place-items: center;
  align-content: center;
  width: 128px;
  height: 92px;
  border: 1px dashed var(--line2);
  border-radius: 3px;
  color: var(--copper);
  font-weight: 600;
  text-align: center;
}
</style>
