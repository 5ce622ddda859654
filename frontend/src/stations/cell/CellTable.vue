<script setup lang="ts">
/** Every cell of the library and your own tried in this build. Sorted by a press on its column, walked with the arrow keys. */
import { computed, ref } from 'vue'

import type { CellCandidate } from '@/api/client'
import type { TriedCell } from '@/stations/cell/triedCell'
import { useMoney } from '@/composables/useMoney'
import CellGlyph from '@/drawings/CellGlyph.vue'
import { duration, milliampHours, plain } from '@/format'
import { useUnits } from '@/composables/useUnits'
import { t } from '@/words'

const { lengthText } = useUnits()
const props = defineProps<{
  cells: TriedCell[]
  outcomes: Map<string, CellCandidate['outcome']>
  chosen: string
  late: boolean
}>()
const emit = defineEmits<{ choose: [cell: TriedCell] }>()
const find = defineModel<string>('find', { required: true })

const money = useMoney()
type Column = 'place' | 'name' | 'holds' | 'clearance' | 'density' | 'rate' | 'full' | 'runs' | 'price'
const COLUMNS: { key: Column; label: string; wide?: boolean; title?: string }[] = [
  { key: 'holds', label: t('holds') },
  {
    key: 'clearance',
    label: t('room to spare'),
    title: t('room to spare in the bay, or where the old batteries were; outer size only'),
  },
  { key: 'density', label: t('Wh/l'), wide: true },
  { key: 'rate', label: t('charged at'), wide: true },
  { key: 'full', label: t('full in'), wide: true },
  { key: 'runs', label: t('hours of use') },
  { key: 'price', label: t('price'), wide: true },
]
/** The best for this gadget first, until a column is pressed. */
const sort = ref<Column>('place')
const upward = ref(true)
const fitting = ref(false)
const body = ref<HTMLElement>()

function by(column: Column): void {
  upward.value =
    sort.value === column ? !upward.value : column === 'name' || column === 'full' || column === 'price'
  sort.value = column
}

function figure({ id, cell }: TriedCell, column: Column): number | null | undefined {
  const outcome = props.outcomes.get(id)
  switch (column) {
    case 'place':
      return outcome?.place
    case 'holds':
      return cell.measured_capacity_ah ?? cell.capacity_ah
    case 'clearance':
      return outcome?.outer_margin_mm?.value
    case 'density':
      return outcome?.density_wh_per_l
    case 'rate':
      return outcome?.c_rate
    case 'full':
      return outcome?.charge_hours?.value
    case 'runs':
      return outcome?.run_hours?.value
    case 'price':
      return cell.price
    default:
      return 0
  }
}

const shown = computed(() => {
  const words = find.value.toLowerCase().split(/\s+/).filter(Boolean)
  const found = props.cells.filter((tried) => {
    const text = `${tried.cell.name} ${tried.cell.form} ${tried.cell.cell_class} ${tried.own ? t('own parts') : ''}`
    const fits = !fitting.value || (figure(tried, 'clearance') ?? -1) >= 0
    return fits && words.every((word) => text.toLowerCase().includes(word))
  })
  if (sort.value === 'name') return upward.value ? found : [...found].reverse()
  const missing = upward.value ? Infinity : -Infinity
  const at = (tried: TriedCell) => figure(tried, sort.value) ?? missing
  return [...found].sort((a, b) => (upward.value ? at(a) - at(b) : at(b) - at(a)))
})

function walk(by: number): void {
  const buttons = [...(body.value?.querySelectorAll<HTMLButtonElement>('button.pick') ?? [])]
  const here = buttons.indexOf(document.activeElement as HTMLButtonElement)
  buttons[Math.min(Math.max(here + by, 0), buttons.length - 1)]?.focus()
}
</script>

<template>
  <div class="search flex flex-wrap items-center gap-y-8 gap-x-16 mx-0 mt-16 mb-6">
    <input
      v-model="find"
      class="w-220 h-30 px-9 py-0 framed bg-sheet text-ink text-body font-sans"
      type="search"
      aria-label="Search the cells"
      placeholder="pouch 40, 18650, lfp, own …"
      @keydown.down.prevent="walk(1)"
    />
    <ElCheckbox v-model="fitting">only what goes in</ElCheckbox>
    <slot />
  </div>
  <div class="scroll" tabindex="0" role="region" aria-label="Cells to choose from">
    <table class="ruled" :class="{ late }">
      <thead>
        <tr>
          <th class="glyph w-62"></th>
          <th :aria-sort="sort === 'name' ? (upward ? 'ascending' : 'descending') : undefined">
            <button type="button" class="bare tap font-semibold hover:underline" @click="by('name')">
              cell
            </button>
          </th>
          <th
            v-for="column in COLUMNS"
            :key="column.key"
            :class="['number', { wide: column.wide }]"
            :title="column.title"
            :aria-sort="sort === column.key ? (upward ? 'ascending' : 'descending') : undefined"
          >
            <button type="button" class="bare tap font-semibold hover:underline" @click="by(column.key)">
              {{ column.label }}{{ sort === column.key ? (upward ? ' ↑' : ' ↓') : '' }}
            </button>
          </th>
        </tr>
      </thead>
      <tbody ref="body" @keydown.down.prevent="walk(1)" @keydown.up.prevent="walk(-1)">
        <tr
          v-for="tried in shown"
          :key="tried.id"
          class="cursor-pointer hover:bg-sunk current:bg-copperwash"
          :class="{ 'is-current': tried.cell.name === chosen }"
          @click="emit('choose', tried)"
        >
          <td class="glyph w-62"><CellGlyph :cell="tried.cell" :scale="0.42" /></td>
          <td>
            <button type="button" class="bare pick" :aria-pressed="tried.cell.name === chosen">
              {{ tried.cell.name }}
            </button>
            <small v-if="tried.own" class="ml-6 px-5 py-0 border border-line2 rounded-[8px] text-ink2"
              >own</small
            >
          </td>
          <td class="number">{{ milliampHours(figure(tried, 'holds')!) }}</td>
          <td class="number">
            <span
              v-if="figure(tried, 'clearance') != null"
              :class="{ over: figure(tried, 'clearance')! < 0 }"
              >{{ lengthText(figure(tried, 'clearance')!) }}</span
            >
          </td>
          <td class="number wide">{{ plain(figure(tried, 'density') ?? 0, 3) }}</td>
          <td class="number wide">
            <span v-if="figure(tried, 'rate')" :class="{ over: outcomes.get(tried.id)!.over_c }"
              >{{ plain(figure(tried, 'rate')!, 2) }} C</span
            ><span v-else class="quiet">no board</span>
          </td>
          <td class="number wide">{{ figure(tried, 'full') ? duration(figure(tried, 'full')!) : '' }}</td>
          <td class="number">{{ figure(tried, 'runs') ? duration(figure(tried, 'runs')!) : '' }}</td>
          <td class="number wide">{{ tried.cell.price == null ? '' : money(tried.cell.price) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
  <p v-if="!shown.length" class="quiet px-0 py-12">
    No cell of that kind{{ fitting ? ' goes in' : '' }}. Take off a word{{ fitting ? ' or the tick' : '' }}.
  </p>
</template>

<style scoped>
.over {
  color: var(--stop);
  font-weight: 600;
}
@media (max-width: 860px) {
  .wide,
  .glyph {
    display: none;
  }
}
</style>
