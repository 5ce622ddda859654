<script setup lang="ts">
/** A cell's print read off a photograph, shown beside the picture: nothing of it counts before a yes. */
import { useObjectUrl } from '@vueuse/core'
import { ref, shallowRef, useTemplateRef } from 'vue'

import { send, sentenceOf, type PrintedLabel, type Problem } from '@/api/client'
import { useNewest } from '@/composables/useNewest'
import { t } from '@/words'

const emit = defineEmits<{ read: [code: string] }>()
const picker = useTemplateRef<HTMLInputElement>('picker')
const file = shallowRef<File>()
const picture = useObjectUrl(file)
const label = ref<PrintedLabel>()
const problem = ref('')
const reading = ref(false)

const newest = useNewest()
async function read(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  file.value = input.files?.[0]
  input.value = ''
  label.value = undefined
  problem.value = ''
  if (!file.value) return
  reading.value = true
  const headers = { 'Content-Type': file.value.type || 'application/octet-stream' }
  const answer = await newest(send('/api/labels', { method: 'POST', body: file.value, headers }))
  if (!answer) return
  reading.value = false
  if (answer.ok) label.value = (await answer.json()) as PrintedLabel
  else problem.value = sentenceOf((await answer.json()) as Problem)
}
</script>

<template>
  <ElButton size="small" @click="picker?.click()">From a photograph</ElButton>
  <input
    ref="picker"
    type="file"
    accept="image/jpeg,image/png,image/webp"
    class="visually-hidden"
    tabindex="-1"
    aria-label="Photograph of the cell's label"
    @change="read"
  />
  <div v-if="picture" class="basis-full flex flex-wrap items-start gap-12">
    <img
      class="block w-160 max-h-120 framed object-cover"
      :src="picture"
      :alt="t('The label as photographed')"
    />
    <div class="min-w-0 flex-1" role="status">
      <p v-if="reading" class="m-0 quiet">{{ t('Reading what is printed on it …') }}</p>
      <template v-if="label">
        <p v-if="label.lines.length" class="m-0">
          It says <span class="font-mono">{{ label.lines.join(' / ') }}</span>
        </p>
        <p v-else class="m-0 quiet">
          Nothing could be read: take it from nearer, sharp and lit from the side.
        </p>
        <p v-if="label.lines.length && !label.sizes.length" class="m-0 quiet">
          No size code is in it: measure the cell, or look up what its maker calls this size.
        </p>
        <p v-for="size in label.sizes" :key="size.code" class="m-0 mt-6">
          <button type="button" class="bare link-button gap-6" @click="emit('read', size.code)">
            Read it as <span class="font-mono">{{ size.code }}</span>
          </button>
        </p>
      </template>
    </div>
  </div>
  <p v-if="problem" class="error-line basis-full" role="alert">{{ problem }}</p>
</template>
