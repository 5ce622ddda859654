<script setup lang="ts">
/** One drawer for many gadgets: gadgets left, own cells right, a line for each that goes together best. */
import { computed, onMounted, ref, shallowRef } from 'vue'

import { api, sentenceOf, type Assignment } from '@/api/client'
import CellGlyph from '@/drawings/CellGlyph.vue'
import PageFrame from '@/kit/PageFrame.vue'
import { useInventory } from '@/stores/inventory'
import { t } from '@/words'

type Line = Assignment['lines'][number]
type Pair = [number, number]

const answer = shallowRef<Assignment>()
const problem = ref('')
const busy = ref(false)
const aim = ref<'most_service' | 'most_gadgets'>('most_service')
const pinned = ref<Pair[]>([])
const forbidden = ref<Pair[]>([])
const hovered = ref<number>()

async function ask(): Promise<void> {
  busy.value = true
  const body = { aim: aim.value, pinned: pinned.value, forbidden: forbidden.value }
  const { data, error } = await api.POST('/api/drawer/assignment', { body })
  problem.value = error ? sentenceOf(error) : ''
  if (data) answer.value = data
  busy.value = false
}
onMounted(() => {
  document.title = t('Who gets which cell · Pocket Spark')
  void inventory.load()
  void ask()
})

const inventory = useInventory()
const bodies = computed(() => new Map(inventory.parts.map((part) => [part.id, part.cell])))

const pairsOf = (line: Line): Pair[] => line.cells.map((cell) => [line.project_id, cell])
const without = (pairs: Pair[], id: number) => pairs.filter(([project]) => project !== id)
function pin(line: Line): void {
  pinned.value = line.pinned ? without(pinned.value, line.project_id) : [...pinned.value, ...pairsOf(line)]
  void ask()
}
function forbid(line: Line): void {
  pinned.value = without(pinned.value, line.project_id)
  forbidden.value = [...forbidden.value, ...pairsOf(line)]
  void ask()
}
function allowAll(): void {
  pinned.value = []
  forbidden.value = []
  void ask()
}
async function take(line: Line): Promise<void> {
  const { error } = await api.POST('/api/drawer/taken', {
    body: { project_id: line.project_id, edits: line.edits },
  })
  problem.value = error ? sentenceOf(error) : ''
  if (!error) await ask()
}
function wants(which: 'most_service' | 'most_gadgets'): void {
  aim.value = which
  void ask()
}

const ROW = 74
interface Gadget {
  project_id: number
  gadget: string
  cells: number[]
  line?: Line
  why?: string
}
const gadgets = computed<Gadget[]>(() => [
  ...(answer.value?.lines.map((line) => ({ ...line, line })) ?? []),
  ...(answer.value?.left.map((one) => ({ ...one, cells: [] })) ?? []),
])
/** Cells in the order of the gadgets that get them, so that few lines cross; what is left over comes last. */
const drawer = computed(() => {
  const order = new Map(answer.value?.lines.flatMap((line) => line.cells).map((cell, n) => [cell, n]))
  const place = (cell: number) => order.get(cell) ?? 1e6
  return [...(answer.value?.drawer ?? [])].sort((a, b) => place(a.part_id) - place(b.part_id))
})
const cellRow = (id: number) => drawer.value.findIndex((cell) => cell.part_id === id)
const high = computed(() => ROW * Math.max(gadgets.value.length, drawer.value.length * 0.55, 1))
const cellY = (id: number) => 20 + cellRow(id) * ROW * 0.8 + 9
</script>

<template>
  <PageFrame title="Who gets which cell" back="your parts" to="/parts">
    <p class="quiet">
      Your own tested cells and every conversion that is not begun: which cell goes where, so that all
      together serve longest. Fit and every rule are kept.
    </p>
    <div class="flex flex-wrap items-center gap-x-18 gap-y-8 my-10" role="group" aria-label="Wanted">
      <ElButton :type="aim === 'most_service' ? 'primary' : undefined" plain @click="wants('most_service')"
        >Most service in all</ElButton
      >
      <ElButton :type="aim === 'most_gadgets' ? 'primary' : undefined" plain @click="wants('most_gadgets')"
        >Most gadgets done</ElButton
      >
      <button
        v-if="pinned.length || forbidden.length"
        type="button"
        class="bare text-copper"
        @click="allowAll"
      >
        Let go of {{ pinned.length }} pinned, {{ forbidden.length }} ruled out
      </button>
      <span v-if="busy" class="quiet" role="status">Working it out …</span>
    </div>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <template v-if="answer">
      <h2 class="mx-0 mt-14 mb-2 text-head text-ink">{{ answer.headline }}</h2>
      <p class="quiet m-0">{{ answer.proof }}</p>
      <div
        class="grid grid-cols-[minmax(0,5fr)_minmax(80px,2fr)_minmax(0,3fr)] mt-14 narrow:grid-cols-[minmax(0,1fr)]"
        :class="{ late: busy }"
      >
        <ul class="m-0 p-0 list-none" aria-label="Gadgets">
          <li
            v-for="(one, row) in gadgets"
            :key="one.project_id"
            class="flex flex-col gap-2 h-74 px-10 py-6 border-l-3 border-transparent narrow:h-auto narrow:border-b narrow:border-line"
            :class="{ 'border-copper bg-sunk': hovered === row }"
            @mouseenter="hovered = row"
            @mouseleave="hovered = undefined"
          >
            <RouterLink :to="`/conversion/${one.project_id}/cell`" class="truncate font-semibold">{{
              one.gadget
            }}</RouterLink>
            <template v-if="one.line">
              <span class="small truncate narrow:whitespace-normal">
                {{ one.line.names.join(' and ') }}: {{ one.line.days.text }} on a charge{{
                  one.line.old_days ? `, a set lasted ${one.line.old_days.text}` : ''
                }}
              </span>
              <span class="flex flex-wrap gap-x-14">
                <button
                  type="button"
                  class="bare text-copper text-small aria-pressed:font-bold narrow:min-h-44"
                  @click="take(one.line)"
                >
                  Put it in
                </button>
                <button
                  type="button"
                  class="bare text-copper text-small aria-pressed:font-bold narrow:min-h-44"
                  :aria-pressed="one.line.pinned"
                  @click="pin(one.line)"
                >
                  {{ one.line.pinned ? 'Pinned' : 'Pin' }}
                </button>
                <button
                  type="button"
                  class="bare text-copper text-small aria-pressed:font-bold narrow:min-h-44"
                  @click="forbid(one.line)"
                >
                  Not this one
                </button>
              </span>
            </template>
            <span v-else class="quiet small">{{ one.why }}</span>
          </li>
        </ul>
        <svg
          :viewBox="`0 0 100 ${high}`"
          :style="{ height: `${high}px` }"
          class="w-full narrow:hidden"
          preserveAspectRatio="none"
          aria-hidden="true"
        >
          <template v-for="(one, row) in gadgets" :key="one.project_id">
            <path
              v-for="(cell, n) in one.cells"
              :key="n"
              :d="`M0 ${20 + row * ROW}C50 ${20 + row * ROW} 50 ${cellY(cell)} 100 ${cellY(cell)}`"
              :class="{ lit: hovered === row }"
            />
          </template>
        </svg>
        <ul class="m-0 p-0 list-none narrow:hidden" aria-label="Cells">
          <li
            v-for="cell in drawer"
            :key="cell.part_id"
            class="flex items-center gap-10 h-[59.2px] px-10 py-6"
            :class="{ 'text-ink2': cell.left > 0 }"
          >
            <span class="grid flex-none place-items-center w-52 h-50 overflow-hidden"
              ><CellGlyph v-if="bodies.get(cell.part_id)" :cell="bodies.get(cell.part_id)!" :scale="0.45"
            /></span>
            {{ cell.name }}
            <span v-if="cell.left" class="quiet small">{{ cell.left }} left</span>
          </li>
        </ul>
      </div>
      <p v-if="!drawer.length" class="quiet">
        No tested cell lies in your drawer. <RouterLink to="/parts">Add what you have</RouterLink>, with its
        readings.
      </p>
      <p v-if="!gadgets.length" class="quiet">No conversion waits for a cell.</p>
    </template>
  </PageFrame>
</template>

<style scoped>
path {
  fill: none;
  stroke: var(--copper);
  stroke-width: 1.6;
  vector-effect: non-scaling-stroke;
}
path.lit {
  stroke-width: 3;
}
</style>
