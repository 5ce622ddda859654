<script setup lang="ts">
/** The your parts: the maker's own cells with their grades and matches, boards, regulators and resistors. */
import { computed, onMounted, ref } from 'vue'

import type { OwnPart } from '@/api/client'
import CellHistory from '@/components/CellHistory.vue'
import GradeLine from '@/components/GradeLine.vue'
import PageFrame from '@/components/PageFrame.vue'
import PartEditor from '@/components/PartEditor.vue'
import CellGlyph from '@/drawings/CellGlyph.vue'
import { PART_FIELDS } from '@/partFields'
import { amps, engineering, milliampHours, plain } from '@/format'
import { useInventory, type InventoryKind } from '@/stores/inventory'

const inventory = useInventory()
const kind = ref<InventoryKind>('cell')
const edited = ref<number | 'new'>()

onMounted(() => {
  document.title = 'Your parts · Pocket Spark'
  void inventory.load()
})

const here = computed(() => PART_FIELDS.find((one) => one.kind === kind.value)!)
const parts = computed(() => inventory.parts.filter((part) => part.kind === kind.value))
const good = computed(() => inventory.matches.filter((match) => !match.match.spoilers.length))
const bad = computed(() => inventory.matches.filter((match) => match.match.spoilers.length).slice(0, 4))

function show(wanted: InventoryKind): void {
  kind.value = wanted
  edit(undefined)
}

function edit(which: number | 'new' | undefined): void {
  edited.value = which
  inventory.refused = {}
  inventory.problem = ''
}

function figures({ cell, board, resistor }: OwnPart): string {
  if (cell) {
    const size = cell.size_mm?.map((mm) => plain(mm, 3)).join(' x ')
    const measured = cell.measured_capacity_ah ? `, measured ${milliampHours(cell.measured_capacity_ah)}` : ''
    return `${size ? `${size} mm, ` : ''}label ${milliampHours(cell.capacity_ah)}${measured}`
  }
  if (resistor)
    return `${engineering(resistor.r_ohm, 'Ω')}, ${plain((resistor.tolerance ?? 0) * 100, 2)} %, ${resistor.mounting}`
  const size = board?.outline_mm?.map((mm) => plain(mm, 3)).join(' x ')
  const does = [
    board?.charger && `K ${board.charger.k_volts}, ${amps(board.charger.rated_a ?? 0)}`,
    board?.protection && `cuts at ${plain(board.protection.cut_v ?? 0, 3)} V`,
    board?.regulator &&
      `${board.regulator.kind?.replaceAll('_', '-')} ${board.regulator.v_set ? `${board.regulator.v_set} V` : ''}`,
    size && `${size} mm`,
  ]
  return does.filter(Boolean).join(', ')
}
const nameOf = (part: OwnPart) => part.cell?.name ?? part.board?.name ?? part.resistor?.name ?? ''
</script>

<template>
  <PageFrame title="Your your parts">
    <nav aria-label="Your parts">
      <button
        v-for="one in PART_FIELDS"
        :key="one.kind"
        type="button"
        :class="['bare', { here: one.kind === kind }]"
        :aria-current="one.kind === kind ? 'page' : undefined"
        @click="show(one.kind)"
      >
        {{ one.label }} <small>{{ inventory.parts.filter((part) => part.kind === one.kind).length }}</small>
      </button>
    </nav>
    <p class="quiet">{{ here.teach }}</p>
    <p v-if="inventory.problem && !edited" class="why" role="alert">{{ inventory.problem }}</p>

    <ul class="parts">
      <li v-for="part in parts" :key="part.id">
        <PartEditor v-if="edited === part.id" :kind="kind" :part="part" @done="edit(undefined)" />
        <template v-else>
          <span class="glyph"><CellGlyph v-if="part.cell" :cell="part.cell" :scale="0.7" /></span>
          <div class="what">
            <strong>{{ nameOf(part) }}</strong>
            <span class="quiet">{{ figures(part) }}</span>
            <span v-if="part.used_by.length" class="small">in {{ part.used_by.join(', ') }}</span>
          </div>
          <GradeLine v-if="part.grade" :grade="part.grade" class="said" />
          <span v-else class="said" />
          <span class="stock">{{ part.stock }} ×</span>
          <span class="acts">
            <button type="button" class="bare" @click="edit(part.id)">Change</button>
            <button
              type="button"
              class="bare"
              :aria-label="`Take out ${nameOf(part)}`"
              @click="inventory.remove(part)"
            >
              Take out
            </button>
          </span>
          <CellHistory v-if="part.cell" :part="part" />
        </template>
      </li>
    </ul>
    <PartEditor v-if="edited === 'new'" :key="kind" :kind="kind" @done="edit(undefined)" />
    <ElButton v-else type="primary" plain @click="edit('new')">Put one in</ElButton>

    <section v-if="kind === 'cell' && inventory.matches.length" aria-label="In parallel">
      <h2>Which go together in parallel</h2>
      <ul class="matches">
        <li v-for="pair in good" :key="`${pair.first}-${pair.second}`">
          <b>{{ pair.names[0] }}</b> and <b>{{ pair.names[1] }}</b>: {{ pair.match.joined }}
        </li>
        <li v-for="pair in bad" :key="`${pair.first}-${pair.second}`" class="quiet">
          {{ pair.names[0] }} and {{ pair.names[1] }}: no. {{ pair.match.spoilers.join('; ') }}
        </li>
      </ul>
      <p class="quiet small">Joined only at nearly the same volts, first through a resistor if in doubt.</p>
    </section>
  </PageFrame>
</template>

<style scoped>
nav {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin: 12px 0 8px;
  border-bottom: 1px solid var(--line2);
}
nav button {
  padding: 5px 14px;
  border-bottom: 3px solid transparent;
  color: var(--ink2);
}
nav button:hover {
  background: var(--sunk);
}
nav button.here {
  border-color: var(--copper);
  color: var(--ink);
  font-weight: 700;
}
.parts {
  margin: 10px 0;
  padding: 0;
  list-style: none;
  border-top: 1px solid var(--line);
}
.parts li {
  display: grid;
  grid-template-columns: 84px minmax(180px, 1fr) minmax(0, 1.6fr) 48px 130px;
  align-items: start;
  gap: 4px 16px;
  padding: 10px 2px;
  border-bottom: 1px solid var(--line);
}
.parts li > form {
  grid-column: 1 / -1;
}
.what {
  display: flex;
  flex-direction: column;
}
.acts {
  display: flex;
  gap: 14px;
}
.acts button {
  color: var(--copper);
  font-weight: 600;
}
.stock {
  text-align: right;
}
h2 {
  margin: 24px 0 6px;
}
.matches {
  margin: 0;
  padding: 0;
  list-style: none;
}
.matches li {
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.why {
  color: var(--stop);
}
@media (max-width: 860px) {
  .parts li {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .glyph {
    display: none;
  }
  .said,
  .acts {
    grid-column: 1 / -1;
  }
  .acts button {
    min-height: 40px;
  }
}
</style>
