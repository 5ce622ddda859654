<script setup lang="ts">
/** Cell: which one, is its label credible, and how hard this resistor drives it. */
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'

import { api, type Choice, type Part } from '@/api/client'
import ChoiceField from '@/components/ChoiceField.vue'
import QuantityField from '@/components/QuantityField.vue'
import { useWhatIf } from '@/composables/useWhatIf'
import CellGlyph from '@/drawings/CellGlyph.vue'
import { duration, milliampHours, plain } from '@/format'
import { useConversion } from '@/stores/conversion'
import { useTrade } from '@/stores/trade'

const conversion = useConversion()
const trade = useTrade()
const route = useRoute()

const cell = computed(() => conversion.build?.cell)
const path = computed(() => `${conversion.buildPath}.cell`)
const summary = computed(() => conversion.assessment?.cell)

const find = ref('')
watch(
  () => route.query.find,
  (wanted) => (find.value = typeof wanted === 'string' ? wanted : find.value),
  { immediate: true },
)

const candidates = useWhatIf(async (body) => await api.POST('/api/candidates', { body }))
const outcomes = computed(() => new Map((candidates.value ?? []).map(({ part, outcome }) => [part, outcome])))

type Order = 'size' | 'energy' | 'run'
const order = ref<Order>('size')
const shown = computed(() => {
  const words = find.value.toLowerCase().split(/\s+/).filter(Boolean)
  const found = trade.cells.filter((part) => {
    const text = `${part.cell!.name} ${part.cell!.form} ${part.cell!.cell_class}`.toLowerCase()
    return words.every((word) => text.includes(word))
  })
  const rank = (part: Part) => {
    const outcome = outcomes.value.get(part.id)
    return order.value === 'energy' ? -(outcome?.energy_wh ?? 0) : -(outcome?.run_hours ?? 0)
  }
  return order.value === 'size' ? found : [...found].sort((a, b) => rank(a) - rank(b))
})

const ORIGINS: Choice[] = [
  { value: 'new', label: 'new', detail: '' },
  { value: 'salvaged', label: 'salvaged', detail: 'gentle charge only' },
]

function choose(part: Part): void {
  const at = path.value
  conversion.change((document) => {
    const build = document.builds[conversion.buildIndex]!
    build.cell = JSON.parse(JSON.stringify(part.cell)) as typeof build.cell
    const kept = Object.entries(document.basis ?? {}).filter(([field]) => !field.startsWith(`${at}.`))
    document.basis = Object.fromEntries(kept)
  })
}
</script>

<template>
  <div>
    <h1>Which cell</h1>
    <p class="quiet">
      {{
        cell
          ? `${cell.name}: ${cell.size_mm?.map((mm) => plain(mm, 3)).join(' x ') ?? 'size not given'} mm.`
          : 'Pick the largest cell that may fit; its own figures can be mended afterwards.'
      }}
    </p>

    <section v-if="cell" class="chosen" aria-label="Chosen cell">
      <CellGlyph :cell="cell" :scale="1.35" chosen />
      <div class="fields">
        <QuantityField :path="`${path}.capacity_ah`" unit="mAh" label="Label says" />
        <QuantityField
          :path="`${path}.measured_capacity_ah`"
          unit="mAh"
          label="Measured"
          placeholder="not yet"
          empty="default"
        />
        <QuantityField
          :path="`${path}.r_ohm`"
          unit="mΩ"
          label="Resistance"
          :placeholder="summary ? plain(summary.r_ohm * 1000, 3) : undefined"
          empty="default"
        />
      </div>
      <div class="fields">
        <QuantityField
          :path="`${path}.charge_max_a`"
          unit="mA"
          label="Takes at most"
          placeholder="not stated"
          empty="default"
        />
        <QuantityField
          :path="`${path}.discharge_max_a`"
          unit="mA"
          label="Gives at most"
          placeholder="not stated"
          empty="default"
        />
        <ChoiceField :path="`${path}.origin`" label="Origin" :choices="ORIGINS" />
      </div>
      <div class="count">
        <label for="count">alike, in parallel</label>
        <ElInputNumber
          id="count"
          :model-value="conversion.build!.cell_count"
          :min="1"
          :max="6"
          size="small"
          aria-label="cells in parallel"
          @update:model-value="conversion.edit(`${conversion.buildPath}.cell_count`, $event ?? 1)"
        />
        <ElCheckbox
          :model-value="!!cell.own_guard"
          @update:model-value="conversion.edit(`${path}.own_guard`, $event)"
          >has its own guard</ElCheckbox
        >
        <span v-if="summary?.density_wh_per_l" class="quiet"
          >{{ plain(summary.density_wh_per_l, 3) }} Wh/l</span
        >
      </div>
    </section>

    <div class="search">
      <input
        v-model="find"
        type="search"
        aria-label="Search the cells"
        placeholder="pouch 40, 18650, lfp …"
      />
      <span class="quiet">by</span>
      <ElRadioGroup v-model="order" size="small" aria-label="Order of the cells">
        <ElRadioButton value="size">kind</ElRadioButton>
        <ElRadioButton value="energy">energy</ElRadioButton>
        <ElRadioButton value="run">run time</ElRadioButton>
      </ElRadioGroup>
    </div>
    <table class="ruled">
      <thead>
        <tr>
          <th></th>
          <th>cell</th>
          <th class="number">holds</th>
          <th class="number wide">Wh/l</th>
          <th class="number">charged at</th>
          <th class="number wide">full in</th>
          <th class="number">runs</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="part in shown"
          :key="part.id"
          :class="{ here: part.cell!.name === cell?.name }"
          @click="choose(part)"
        >
          <td class="glyph"><CellGlyph :cell="part.cell!" :scale="0.42" /></td>
          <td>
            <button type="button" class="bare" :aria-pressed="part.cell!.name === cell?.name">
              {{ part.cell!.name }}
            </button>
          </td>
          <td class="number">{{ milliampHours(part.cell!.capacity_ah) }}</td>
          <td class="number wide">{{ plain(outcomes.get(part.id)?.density_wh_per_l ?? 0, 3) }}</td>
          <td class="number">
            <span v-if="outcomes.get(part.id)?.c_rate" :class="{ over: outcomes.get(part.id)!.over_c }"
              >{{ plain(outcomes.get(part.id)!.c_rate!, 2) }} C</span
            ><span v-else class="quiet">no board</span>
          </td>
          <td class="number wide">
            {{ outcomes.get(part.id)?.charge_hours ? duration(outcomes.get(part.id)!.charge_hours!) : '' }}
          </td>
          <td class="number">
            {{ outcomes.get(part.id)?.run_hours ? duration(outcomes.get(part.id)!.run_hours!) : '' }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="!shown.length" class="quiet none">No cell of that name in the library.</p>
  </div>
</template>

<style scoped>
.chosen {
  display: grid;
  grid-template-columns: auto repeat(2, minmax(210px, 1fr));
  align-items: start;
  gap: 10px 28px;
  margin: 14px 0 4px;
}
.fields {
  display: flex;
  flex-direction: column;
  gap: 7px;
}
.chosen :deep(.choice) {
  grid-template-columns: minmax(0, 1fr) 142px;
}
.count {
  grid-column: 2 / -1;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
}
.count :deep(.el-input-number) {
  width: 84px;
}
.search {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 18px 0 6px;
}
.search input {
  width: 230px;
  height: 30px;
  padding: 0 9px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font: 14px var(--sans);
}
tbody tr {
  cursor: pointer;
}
tbody tr:hover {
  background: var(--sunk);
}
tr.here {
  background: var(--copperwash);
}
td.glyph {
  width: 62px;
}
.over {
  color: var(--stop);
  font-weight: 600;
}
.none {
  padding: 12px 0;
}
@media (max-width: 860px) {
  .chosen {
    grid-template-columns: 1fr;
  }
  .count {
    grid-column: 1;
  }
  .wide {
    display: none;
  }
  td.glyph {
    display: none;
  }
  thead th:first-child {
    display: none;
  }
}
</style>
