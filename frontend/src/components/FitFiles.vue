<script setup lang="ts">
/** Out of the tool: holes with their places, drill template 1:1, printed parts with a preview. */
import { ref, watch } from 'vue'

import type { FitReply } from '@/api/client'
import { useDownload } from '@/composables/useDownload'

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
/** What the template is had as; a PDF has pages of one paper or the other. */
const TEMPLATES = [
  { says: 'PDF, A4', kind: 'pdf', paper: 'a4' },
  { says: 'PDF, Letter', kind: 'pdf', paper: 'letter' },
  { says: 'SVG', kind: 'svg', paper: 'a4' },
  { says: 'DXF', kind: 'dxf', paper: 'a4' },
]
const mm = (value: number) => value.toFixed(1)
</script>

<template>
  <section aria-label="Openings and files">
    <template v-if="reply.answer?.openings?.length">
      <h2>Holes, measured on the outside</h2>
      <div class="scroll" tabindex="0" role="region" aria-label="Holes">
        <table class="ruled">
          <thead>
            <tr>
              <th>wall</th>
              <th>hole</th>
              <th class="number">size, mm</th>
              <th class="number">from its left edge</th>
              <th class="number">from its lower edge</th>
              <th class="wide"></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="hole in reply.answer.openings" :key="hole.what + hole.part">
              <td>{{ hole.side }}</td>
              <td>{{ hole.what }}</td>
              <td class="number">
                {{ hole.round ? `⌀ ${mm(hole.width_mm)}` : `${mm(hole.width_mm)} x ${mm(hole.height_mm)}` }}
              </td>
              <td class="number">{{ mm(hole.across_mm) }}</td>
              <td class="number">{{ mm(hole.up_mm) }}</td>
              <td class="wide quiet small">{{ hole.says }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="files">
        Drill template 1:1, with a ruler to check the print:
        <button
          v-for="{ says, kind, paper } in TEMPLATES"
          :key="says"
          type="button"
          class="bare"
          @click="
            download(`/api/questions/fit/template?kind=${kind}&paper=${paper}`, file(`drill-${paper}`, kind))
          "
        >
          {{ says }}
        </button>
      </p>
    </template>
    <template v-if="Object.keys(reply.prints).length">
      <h2>For the printer</h2>
      <div class="prints">
        <ul>
          <li v-for="(says, part) in reply.prints" :key="part">
            <button
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
              class="bare file"
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
          <label
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
          <label
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
h2 {
  margin: 16px 0 4px;
}
.files {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  padding: 8px 0 2px;
}
.files button,
.file {
  color: var(--copper);
  font-weight: 600;
}
.prints {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 20px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: 14px;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
li button:first-child {
  flex: 1;
}
li button.is-current {
  font-weight: 600;
}
label {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  margin: 0 16px 6px 0;
}
label :deep(.el-input-number) {
  width: 92px;
}
.preview :deep(svg) {
  width: 100%;
  max-height: 190px;
}
@media (max-width: 860px) {
  .prints {
    grid-template-columns: 1fr;
  }
  .wide {
    display: none;
  }
}
</style>
