<script setup lang="ts">
/** What has happened to one cell of the inventory, newest first; changed readings write themselves in. */
import { computed, ref } from 'vue'

import type { OwnPart } from '@/api/client'
import { useInventory } from '@/stores/inventory'

const props = defineProps<{ part: OwnPart }>()
const inventory = useInventory()
const text = ref('')
const lines = computed(() => [...(props.part.cell?.intake?.history ?? [])].reverse())

async function write(): Promise<void> {
  const { intake } = props.part.cell!
  const said = text.value
  const line = { day: new Date().toISOString().slice(0, 10), text: text.value.trim() }
  const body = { ...props.part.cell, intake: { ...intake, history: [...(intake?.history ?? []), line] } }
  const written = await inventory.change(props.part, { body }, props.part.stock)
  if (written && text.value === said) text.value = ''
}
</script>

<template>
  <details class="col-[2_/_-1] text-small narrow:col-span-full">
    <summary class="w-[max-content] text-copper font-semibold cursor-pointer">
      History{{ lines.length ? `, ${lines.length}` : '' }}
    </summary>
    <ol v-if="lines.length" class="mx-0 my-4 p-0 list-none">
      <li v-for="(line, index) in lines" :key="index">
        <span class="quiet">{{ line.day }}</span> {{ line.text }}
      </li>
    </ol>
    <form class="flex gap-8 max-w-460 mt-4" @submit.prevent="write">
      <input
        v-model="text"
        class="flex-1 min-w-0 h-26 px-6 py-0 framed bg-sheet text-ink text-small font-sans"
        :aria-label="`What happened to ${part.cell?.name}`"
        placeholder="charged to 3.8 V for storing"
        maxlength="100"
      />
      <ElButton native-type="submit" size="small" :disabled="!text.trim()">Write it down</ElButton>
    </form>
  </details>
</template>
