<script setup lang="ts">
/** The files that can be made of the build at hand and that belong to this page. */
import { computed } from 'vue'

import { useDownload } from '@/composables/useDownload'
import { usePaper } from '@/composables/usePaper'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

const props = defineProps<{ page: string }>()
const conversion = useConversion()
const reference = useReference()
const { problem, download } = useDownload()

const paper = usePaper()
const fits = (laidOutFor: string | null | undefined) =>
  !laidOutFor || paper.value === 'both' || paper.value === laidOutFor
const files = computed(
  () => reference.tables?.exports.filter((file) => file.pages.includes(props.page) && fits(file.paper)) ?? [],
)
const gadget = computed(() => conversion.document?.gadget.name.toLowerCase().replaceAll(/\W+/g, '-') ?? '')
const take = (key: string, ending: string) =>
  download(`/api/questions/export/${key}`, `${gadget.value}-${key}.${ending}`)
</script>

<template>
  <button
    v-for="{ key, label, ending } in files"
    :key="key"
    type="button"
    class="bare tap mr-16 text-copper font-semibold"
    @click="take(key, ending)"
  >
    {{ label }}
  </button>
  <span v-if="problem" class="error-line" role="alert">{{ problem }}</span>
</template>
