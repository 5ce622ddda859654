<script setup lang="ts">
/** One part of the maker's own inventory, field by field; what is refused keeps its text and gets its sentence. */
import { computed, ref } from 'vue'

import type { OwnPart } from '@/api/client'
import PickField from '@/kit/PickField.vue'
import { useInventory, type InventoryKind } from '@/stores/inventory'
import { useReference } from '@/stores/reference'

const props = defineProps<{ kind: InventoryKind; part?: OwnPart }>()
const emit = defineEmits<{ done: [] }>()
const inventory = useInventory()
const reference = useReference()

const fields = computed(() => reference.tables!.part_kinds.find(({ kind }) => kind === props.kind)!.fields)
const stock = ref(props.part?.stock ?? 1)
/** A new part starts with the first of each choice; everything else is empty. */
const texts = ref<Record<string, string>>(
  Object.fromEntries(
    fields.value.map(({ path, choices }) => [path, props.part?.texts[path] ?? choices[0] ?? '']),
  ),
)

async function keep(): Promise<void> {
  const stored = props.part
    ? await inventory.change(props.part, { texts: texts.value }, stock.value)
    : await inventory.add(props.kind, { texts: texts.value }, stock.value)
  if (stored) emit('done')
}
const sentenceAt = (path: string) =>
  Object.entries(inventory.refused).find(([field]) => field === path || field.startsWith(`${path}.`))?.[1]
const unplaced = computed(
  () => inventory.problem && !fields.value.some((field) => sentenceAt(field.path)) && inventory.problem,
)
</script>

<template>
  <form
    class="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-y-7 gap-x-26 px-14 pt-10 pb-14 framed bg-sheet"
    @submit.prevent="keep"
  >
    <div
      v-for="field in fields"
      :key="field.path"
      class="grid grid-cols-[minmax(0,1fr)_138px] items-center gap-y-2 gap-x-8"
    >
      <label :for="field.path">{{ field.label }}</label>
      <PickField
        v-if="field.choices.length"
        :id="field.path"
        :model-value="texts[field.path] ?? ''"
        :label="field.label"
        :options="field.choices.map((value) => ({ value, label: value.replaceAll('_', ' ') }))"
        @update:model-value="texts[field.path] = $event"
      />
      <ElCheckbox
        v-else-if="field.kind === 'yes'"
        :id="field.path"
        :model-value="texts[field.path] === 'yes'"
        @update:model-value="texts[field.path] = $event ? 'yes' : ''"
      />
      <span v-else class="box inline-flex items-center h-28 framed bg-paper"
        ><input
          :id="field.path"
          v-model="texts[field.path]"
          class="flex-1 w-40 h-full px-6 py-0 border-0 bg-transparent text-ink text-body font-mono"
          :placeholder="field.hint"
          autocomplete="off"
        /><i class="pr-7 text-ink2 text-small not-italic">{{ field.unit }}</i></span
      >
      <p v-if="sentenceAt(field.path)" class="error-line" role="alert">{{ sentenceAt(field.path) }}</p>
    </div>
    <div class="grid grid-cols-[minmax(0,1fr)_138px] items-center gap-y-2 gap-x-8">
      <label for="stock">in stock</label>
      <ElInputNumber id="stock" v-model="stock" :min="0" :max="10000" size="small" aria-label="in stock" />
    </div>
    <p v-if="unplaced" class="error-line" role="alert">{{ unplaced }}</p>
    <div class="col-span-full">
      <ElButton type="primary" native-type="submit" size="small">{{
        part ? 'Keep' : 'Add it to your parts'
      }}</ElButton>
      <ElButton size="small" @click="emit('done')">Leave it</ElButton>
    </div>
  </form>
</template>

<style scoped>
input::placeholder {
  color: var(--ink3);
}
</style>
