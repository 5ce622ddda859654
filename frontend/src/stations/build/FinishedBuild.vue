<script setup lang="ts">
/** Every step done: what was promised beside what was measured, and the certificate with its label. */
import { useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'

import type { BuiltReply, Procedure } from '@/api/client'
import AsBuiltTable from '@/components/AsBuiltTable.vue'
import ExportLinks from '@/components/ExportLinks.vue'
import { useOpenPhotos } from '@/composables/useOpenPhotos'
import { useQuestion } from '@/composables/useQuestion'
import { api } from '@/api/client'
import { useConversion } from '@/stores/conversion'

/** Who is named in a recipe is remembered on this device. */
const author = useLocalStorage('pocket-spark-author', '')
const signed = ref(false)
const recipe = computed(() => {
  const asked = new URLSearchParams({
    build: String(conversion.buildIndex),
    author: author.value,
    signed: String(signed.value),
  })
  for (const id of chosen.value) asked.append('pictures', String(id))
  return `/api/projects/${conversion.stored?.id}/recipe.json?${asked}`
})
/** Nothing of a workshop goes out that nobody has picked. */
const chosen = ref<number[]>([])
const MOST_PICTURES = 6
const photos = useOpenPhotos()
const pick = (id: number) =>
  (chosen.value = chosen.value.includes(id)
    ? chosen.value.filter((one) => one !== id)
    : [...chosen.value, id].slice(0, MOST_PICTURES))

defineProps<{ verdict: NonNullable<Procedure['verdict']> }>()
const conversion = useConversion()
const lines = useQuestion<BuiltReply>(
  async (body) => await api.POST('/api/questions/sheet/as-built', { body }),
)
</script>

<template>
  <section
    :class="[
      'mx-0 mt-8 mb-16 px-16 py-12 border-l-5 bg-sheet',
      verdict.kind === 'proven' ? 'border-pass' : 'border-caution',
    ]"
    aria-label="Finished"
  >
    <h2>{{ conversion.build?.practice ? 'Practised to the end' : verdict.label }}</h2>
    <ul v-if="verdict.because?.length && !conversion.build?.practice" class="mx-0 mt-0 mb-8 pl-18">
      <li v-for="reason in verdict.because" :key="reason">{{ reason }}</li>
    </ul>
    <p>Every step is done. Keep the paper with it, and glue the label into its lid.</p>
    <p class="text-large"><ExportLinks page="finished" /></p>
    <p v-if="verdict.kind !== 'unproven'" class="flex flex-wrap items-center gap-x-12 gap-y-6">
      <label class="flex items-center gap-8"
        >For others to follow, by
        <input v-model.trim="author" class="text-input w-180 px-9" placeholder="nobody named" maxlength="80"
      /></label>
      <ElCheckbox v-model="signed">signed by this computer</ElCheckbox>
      <a class="link-button" :href="recipe" download>Save the recipe</a>
    </p>
    <div
      v-if="verdict.kind !== 'unproven' && photos.photos.length"
      class="flex flex-wrap items-center gap-8 mb-10"
      role="group"
      aria-label="Pictures that go with the recipe"
    >
      <span class="quiet basis-full"
        >Pictures go with it only where you press them, {{ MOST_PICTURES }} at most.</span
      >
      <button
        v-for="photo in photos.photos"
        :key="photo.id"
        type="button"
        class="bare p-2 border-2"
        :class="chosen.includes(photo.id) ? 'border-copper' : 'border-line'"
        :aria-pressed="chosen.includes(photo.id)"
        @click="pick(photo.id)"
      >
        <img class="block h-60" :src="photos.pixels(photo, 'thumbnail')" :alt="photo.caption" />
      </button>
    </div>
    <AsBuiltTable v-if="lines" :figures="lines.as_built" />
  </section>
</template>
