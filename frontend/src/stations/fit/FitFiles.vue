<script setup lang="ts">
/** Out of the tool: holes with their places, drill template 1:1, printed parts with a preview. */
import { ref, watch } from 'vue'

import type { FitReply } from '@/api/client'
import ExportLinks from '@/components/ExportLinks.vue'
import { useDownload } from '@/composables/useDownload'
import { useUnits } from '@/composables/useUnits'
import { HOLES, WALLS } from '@/stations/fit/walls'

const { bare: mm, length } = useUnits()
const props = defineProps<{ reply: FitReply; name: string }>()
const { problem, download, fetchMade } = useDownload()

const shown = ref('')
const preview = ref('')
const wall = ref(1.6)
const clearance = ref(0.3)
const settings = () => ({ settings: { wall_mm: wall.value, clearance_mm: clearance.value } })

async function show(part: string): Promise<void> {
  shown.value = part
  const made = await fetchMade(`/api/questions/fit/printed/${part}?kind=svg`, settings())
  preview.value = made ? await made.text() : ''
}
watch([wall, clearance, () => props.reply], () => shown.value && void show(shown.value))

const file = (what: string, kind: string) =>
  `${props.name.toLowerCase().replaceAll(/\W+/g, '-')}-${what}.${kind}`
</script>

<template>
  <section aria-label="Openings and files">
    <template v-if="reply.answer?.openings?.length">
      <h2 class="mx-0 mt-16 mb-4">Holes, measured on the outside</h2>
      <div class="scroll" tabindex="0" role="region" aria-label="Holes">
        <table class="ruled">
          <thead>
            <tr>
              <th>wall</th>
              <th>hole</th>
              <th class="number">size, {{ length }}</th>
              <th class="number">from its left edge</th>
              <th class="number">from its lower edge</th>
              <th class="narrow:hidden"></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="hole in reply.answer.openings" :key="hole.what + hole.part">
              <td>{{ WALLS[hole.side] ?? hole.side }}</td>
              <td>{{ HOLES[hole.what] ?? hole.what }}</td>
              <td class="number">
                {{ hole.round ? `⌀ ${mm(hole.width_mm)}` : `${mm(hole.width_mm)} x ${mm(hole.height_mm)}` }}
              </td>
              <td class="number">{{ mm(hole.across_mm) }}</td>
              <td class="number">{{ mm(hole.up_mm) }}</td>
              <td class="quiet small narrow:hidden">{{ hole.says }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="flex flex-wrap gap-y-4 gap-x-14 px-0 pt-8 pb-2">
        Drill template 1:1, with a ruler to check the print:
        <ExportLinks page="fit" />
      </p>
    </template>
    <template v-if="Object.keys(reply.prints).length">
      <h2 class="mx-0 mt-16 mb-4">For the printer</h2>
      <div class="grid grid-cols-2 gap-20 narrow:grid-cols-1">
        <ul class="m-0 p-0 list-none">
          <li
            v-for="(says, part) in reply.prints"
            :key="part"
            class="flex gap-14 px-0 py-4 border-b border-line"
          >
            <button
              class="current:font-semibold first:flex-1"
              type="button"
              :class="['bare', { 'is-current': shown === part }]"
              @click="show(String(part))"
            >
              {{ says }}
            </button>
            <button
              v-for="kind in ['stl', '3mf']"
              :key="kind"
              type="button"
              class="bare text-copper font-semibold first:flex-1"
              @click="
                download(
                  `/api/questions/fit/printed/${part}?kind=${kind}`,
                  file(String(part), kind),
                  settings(),
                )
              "
            >
              {{ kind.toUpperCase() }}
            </button>
          </li>
        </ul>
        <div>
          <label class="inline-flex items-center gap-6 mr-16 ml-0 mt-0 mb-6"
            >wall
            <ElInputNumber
              v-model="wall"
              :min="0.8"
              :max="6"
              :step="0.2"
              size="small"
              aria-label="wall, mm"
            />
            mm</label
          >
          <label class="inline-flex items-center gap-6 mr-16 ml-0 mt-0 mb-6"
            >clearance
            <ElInputNumber
              v-model="clearance"
              :min="0"
              :max="1.5"
              :step="0.1"
              size="small"
              aria-label="print clearance, mm"
            />
            mm</label
          >
          <!-- eslint-disable-next-line vue/no-v-html -- drawn by our own server from figures only -->
          <div v-if="preview" class="preview" v-html="preview" />
        </div>
      </div>
    </template>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
label :deep(.el-input-number) {
  width: 92px;
}
.preview :deep(svg) {
  width: 100%;
  max-height: 190px;
}
</style>
