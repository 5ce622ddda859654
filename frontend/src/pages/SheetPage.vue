<script setup lang="ts">
/** The build sheet as a page: the same lines, tables and pictures as on paper, in the order they are needed there. */
import { onMounted, ref, shallowRef, watch } from 'vue'

import { api, sentenceOf, type SheetReply } from '@/api/client'
import ExportLinks from '@/components/ExportLinks.vue'
import { useNewest } from '@/composables/useNewest'
import LevelMark from '@/kit/LevelMark.vue'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const props = defineProps<{ id: number; build: number }>()
const conversion = useConversion()
const problem = ref('')
const reply = shallowRef<SheetReply>()

onMounted(async () => {
  if (conversion.stored?.id !== props.id && !(await conversion.open(props.id))) return
  conversion.choose(props.build)
  document.title = t('{name}, build sheet · Pocket Spark', { name: conversion.document?.gadget.name ?? '' })
  await ask()
  watch(() => conversion.stored?.revision, ask)
})

const newest = useNewest()
async function ask(): Promise<void> {
  const heard = await newest(api.POST('/api/questions/sheet', { body: conversion.question() }))
  if (!heard) return
  reply.value = heard.data
  problem.value = heard.error ? sentenceOf(heard.error) : ''
}

type Section = SheetReply['sheet']['sections'][number]
/** As a picture and not as markup: what it is drawn from was typed by somebody. */
const pictureOf = ({ picture }: Section) => {
  const drawn = picture && reply.value!.pictures[picture]
  if (!drawn) return undefined
  const { svg, width, height } = drawn
  return { src: `data:image/svg+xml,${encodeURIComponent(svg)}`, width, height }
}
const print = () => window.print()
</script>

<template>
  <main
    v-if="reply || problem"
    class="max-w-900 mx-auto my-0 px-20 pt-20 pb-60 print:p-0 print:max-w-none print:text-fine"
  >
    <nav class="no-print flex flex-wrap items-center gap-8 mb-12">
      <RouterLink class="tap mr-auto text-copper" :to="`/conversion/${id}/build`"
        >← back to the conversion</RouterLink
      >
      <ElButton size="small" type="primary" @click="print">Print it</ElButton>
      <ExportLinks page="sheet" />
      <RouterLink class="tap mr-auto text-copper" :to="`/conversion/${id}/shopping?build=${build}`"
        >Shopping list</RouterLink
      >
    </nav>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <template v-if="reply">
      <h1>{{ reply.sheet.title }}</h1>
      <section
        v-for="section in reply.sheet.sections"
        :key="section.heading"
        :aria-label="section.heading || 'At a glance'"
      >
        <h2 v-if="section.heading">{{ section.heading }}</h2>
        <p v-for="(line, index) in section.lines" :key="index" :class="['my-2', { 'ml-20': line.follows }]">
          <LevelMark v-if="line.level" :level="line.level" :size="12" /> {{ line.text }}
        </p>
        <img
          v-if="pictureOf(section)"
          v-bind="pictureOf(section)"
          :class="['picture', section.picture]"
          :alt="`${section.heading}, drawn`"
        />
        <div
          v-if="section.table"
          class="scroll"
          tabindex="0"
          role="group"
          :aria-label="`${section.heading}: table`"
        >
          <table class="ruled w-full">
            <colgroup>
              <col
                v-for="(column, index) in section.table.columns"
                :key="index"
                :style="`width: ${column.share}%`"
              />
            </colgroup>
            <thead v-if="section.table.columns.some(({ name }) => name)">
              <tr>
                <th v-for="(column, index) in section.table.columns" :key="index">{{ column.name }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(row, number) in section.table.rows" :key="number">
                <td v-for="(text, index) in row" :key="index" :class="section.table.columns[index]!.kind">
                  <span
                    v-if="section.table.columns[index]!.kind === 'tick'"
                    class="box"
                    role="img"
                    :aria-label="text || 'to do'"
                    >{{ text ? '✓' : '' }}</span
                  >
                  <template v-else>{{ text }}</template>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
    </template>
  </main>
</template>

<style scoped>
nav .el-button {
  margin-left: 0;
}
h2 {
  margin: 20px 0 4px;
}
/* Drawn for white paper, in every theme. */
.picture {
  width: 100%;
  height: auto;
  padding: 8px;
  background: #fff;
}
.picture.resistor {
  max-width: 300px;
}
.box {
  display: inline-block;
  width: 1.1em;
  height: 1.1em;
  border: 1px solid var(--ink2);
  line-height: 1;
  text-align: center;
}
.write:empty {
  border-bottom: 1.5px solid var(--ink2);
}
@media (max-width: 700px) {
  .scroll table {
    min-width: 520px;
  }
}
@media print {
  section {
    break-inside: avoid-page;
  }
}
</style>
