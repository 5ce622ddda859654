<script setup lang="ts">
/** One part of the maker's own inventory, field by field; what is refused keeps its text and gets its sentence. */
import { computed, ref } from 'vue'

import type { OwnPart } from '@/api/client'
import { valueAt, setAt } from '@/document'
import { FIELDS_OF, type PartField } from '@/partFields'
import { engineering, plain, unitSize } from '@/format'
import { useInventory, type InventoryKind } from '@/stores/inventory'

const props = defineProps<{ kind: InventoryKind; part?: OwnPart }>()
const emit = defineEmits<{ done: [] }>()
const inventory = useInventory()

const fields = computed(() => FIELDS_OF[props.kind])
const old = computed(() => props.part?.cell ?? props.part?.board ?? props.part?.resistor)
const stock = ref(props.part?.stock ?? 1)

interface ResistorReading {
  r_ohm: number
  current_a: number
}
function shown(field: PartField): string {
  const value = valueAt(old.value, field.path)
  if (field.kind === 'readings')
    return ((value as ResistorReading[] | undefined) ?? [])
      .map((row) => `${engineering(row.r_ohm, 'Ω')} ${engineering(row.current_a, 'A')}`)
      .join('; ')
  if (typeof value === 'number') return plain(value / unitSize(field.unit ?? ''))
  if (typeof value === 'boolean') return value ? 'yes' : ''
  return Array.isArray(value)
    ? value.join(field.unit === 'mm' ? ' x ' : ', ')
    : ((value as string | null) ?? '')
}
const texts = ref<Record<string, string>>(
  Object.fromEntries(fields.value.map((field) => [field.path, shown(field)])),
)

const BARE = /^[+-]?[\d.,]+(\s*\/\s*[\d.,]+)?$/

function valueOf(field: PartField, text: string): unknown {
  const trimmed = text.trim()
  if (field.kind === 'yes') return trimmed === 'yes'
  if (trimmed === '') return field.empty ?? null
  if (field.kind === 'size')
    return trimmed
      .toLowerCase()
      .replaceAll('mm', '')
      .split(/[x×,\s]+/)
      .filter(Boolean)
  if (field.kind === 'readings') return trimmed.split(';').filter(Boolean).map(readingOf)
  if (field.kind === 'words') return trimmed.split(/[,\s]+/).filter(Boolean)
  if (field.unit && BARE.test(trimmed)) return `${trimmed} ${field.unit}`
  return trimmed
}

/** "3k 390 mA": what stands before and after the gap between two numbers; the core reads and refuses them. */
function readingOf(text: string): { r_ohm: string; current_a: string } {
  const [, ohms, amps] = /^\s*(\S+(?:\s+[kM]?(?:Ω|ohm))?)\s*(.*)$/.exec(text) ?? []
  return { r_ohm: ohms ?? text.trim(), current_a: amps?.trim() ?? '' }
}

function body(): Record<string, unknown> {
  const made = JSON.parse(JSON.stringify(old.value ?? {})) as Record<string, unknown>
  for (const field of fields.value) {
    const value = valueOf(field, texts.value[field.path] ?? '')
    if (value === null && valueAt(made, field.path) === undefined) continue
    // A group or a row of readings is made by its first filled field.
    const list = /^(.*loads)\.\d/.exec(field.path)
    if (list && !Array.isArray(valueAt(made, list[1]!))) setAt(made, list[1]!, [])
    setAt(made, field.path, value)
  }
  const loads = valueAt(made, 'intake.loads')
  if (Array.isArray(loads)) {
    const filled = loads.filter(
      (load: { current_a?: unknown; volts?: unknown } | null) => load?.volts != null,
    )
    setAt(made, 'intake.loads', filled)
  }
  return made
}

async function keep(): Promise<void> {
  const kept = props.part
    ? await inventory.change(props.part, body(), stock.value)
    : await inventory.add(props.kind, body(), stock.value)
  if (kept) emit('done')
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
      <select v-if="field.choices" :id="field.path" v-model="texts[field.path]">
        <option v-for="choice in field.choices" :key="choice" :value="choice">
          {{ choice.replaceAll('_', ' ') }}
        </option>
      </select>
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
      <p v-if="sentenceAt(field.path)" class="why" role="alert">{{ sentenceAt(field.path) }}</p>
    </div>
    <div class="field">
      <label for="stock">in stock</label>
      <ElInputNumber id="stock" v-model="stock" :min="0" :max="10000" size="small" aria-label="in stock" />
    </div>
    <p v-if="unplaced" class="why" role="alert">{{ unplaced }}</p>
    <div class="acts">
      <ElButton type="primary" native-type="submit" size="small">{{
        part ? 'Keep' : 'Into the drawer'
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
select {
  height: 28px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--paper);
  color: var(--ink);
  font: 14px var(--sans);
}
.why {
  grid-column: 1 / -1;
  color: var(--stop);
  font-size: 13px;
}
.acts {
  grid-column: 1 / -1;
}
</style>
