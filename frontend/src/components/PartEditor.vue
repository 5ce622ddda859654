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
  <form class="editor" @submit.prevent="keep">
    <div v-for="field in fields" :key="field.path" class="field">
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
      <span v-else class="box"
        ><input
          :id="field.path"
          v-model="texts[field.path]"
          :placeholder="field.hint"
          autocomplete="off"
        /><i>{{ field.unit }}</i></span
      >
      <p v-if="sentenceAt(field.path)" class="error-line" role="alert">{{ sentenceAt(field.path) }}</p>
    </div>
    <div class="field">
      <label for="stock">in stock</label>
      <ElInputNumber id="stock" v-model="stock" :min="0" :max="10000" size="small" aria-label="in stock" />
    </div>
    <p v-if="unplaced" class="error-line" role="alert">{{ unplaced }}</p>
    <div class="acts">
      <ElButton type="primary" native-type="submit" size="small">{{
        part ? 'Keep' : 'Add it to your parts'
      }}</ElButton>
      <ElButton size="small" @click="emit('done')">Leave it</ElButton>
    </div>
  </form>
</template>

<style scoped>
.editor {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 7px 26px;
  padding: 10px 14px 14px;
  background: var(--sheet);
  border: 1px solid var(--line2);
  border-radius: 3px;
}
.field {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 138px;
  align-items: center;
  gap: 2px 8px;
}
.box {
  display: inline-flex;
  align-items: center;
  height: 28px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--paper);
}
input {
  flex: 1;
  width: 40px;
  height: 100%;
  padding: 0 6px;
  border: 0;
  background: none;
  color: var(--ink);
  font: 14px var(--mono);
}
input::placeholder {
  color: var(--ink3);
}
i {
  padding-right: 7px;
  color: var(--ink2);
  font-size: 13px;
  font-style: normal;
}
.acts {
  grid-column: 1 / -1;
}
</style>
