<script setup lang="ts">
/** Words of the maker's own to find a conversion by among many. */
import { computed, ref } from 'vue'

import { useConversion } from '@/stores/conversion'

const conversion = useConversion()
const tags = computed(() => conversion.document?.tags ?? [])
const typed = ref('')

function add(): void {
  const tag = typed.value.trim()
  if (tag && !tags.value.includes(tag)) conversion.edit('tags', [...tags.value, tag])
  typed.value = ''
}
const remove = (tag: string) =>
  conversion.edit(
    'tags',
    tags.value.filter((other) => other !== tag),
  )
</script>

<template>
  <section class="tags-field mt-14" aria-label="Tags">
    <h2>Tags, to find it by on the shelf</h2>
    <span v-for="tag in tags" :key="tag" class="mr-8 px-8 py-3 rounded bg-sunk">
      {{ tag }}
      <button type="button" class="bare" :aria-label="`Remove the tag ${tag}`" @click="remove(tag)">×</button>
    </span>
    <input
      v-model="typed"
      class="text-input"
      maxlength="40"
      aria-label="Another tag"
      placeholder="club, lent out …"
      @keydown.enter.prevent="add"
      @change="add"
    />
    <p v-if="conversion.refusalAt('tags')" class="error-line" role="alert">
      {{ conversion.refusalAt('tags') }}
    </p>
  </section>
</template>
