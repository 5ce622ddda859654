<script setup lang="ts">
/** Your parts: the maker's own cells with their grades and matches, boards, regulators and resistors. */
import { computed, onMounted, ref } from 'vue'

import type { OwnPart } from '@/api/client'
import CellHistory from '@/components/CellHistory.vue'
import GradeLine from '@/components/GradeLine.vue'
import PageFrame from '@/kit/PageFrame.vue'
import PartEditor from '@/components/PartEditor.vue'
import CellGlyph from '@/drawings/CellGlyph.vue'
import { useInventory, type InventoryKind } from '@/stores/inventory'
import { useReference } from '@/stores/reference'

const inventory = useInventory()
const reference = useReference()
const kind = ref<InventoryKind>('cell')
const edited = ref<number | 'new'>()

onMounted(() => {
  document.title = 'Your parts · Pocket Spark'
  void inventory.load()
})

const kinds = computed(() => reference.tables!.part_kinds)
const current = computed(() => kinds.value.find((each) => each.kind === kind.value)!)
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

const nameOf = (part: OwnPart) => part.cell?.name ?? part.board?.name ?? part.resistor?.name ?? ''
</script>

<template>
  <PageFrame title="Your parts">
    <nav aria-label="Your parts">
      <button
        v-for="each in kinds"
        :key="each.kind"
        type="button"
        :class="['bare', { 'is-current': each.kind === kind }]"
        :aria-current="each.kind === kind ? 'page' : undefined"
        @click="show(each.kind)"
      >
        {{ each.label }} <small>{{ inventory.parts.filter((part) => part.kind === each.kind).length }}</small>
      </button>
    </nav>
    <p class="quiet">{{ current.teaches }}</p>
    <p v-if="inventory.problem && !edited" class="error-line" role="alert">{{ inventory.problem }}</p>

    <ul class="parts">
      <li v-for="part in parts" :key="part.id">
        <PartEditor v-if="edited === part.id" :kind="kind" :part="part" @done="edit(undefined)" />
        <template v-else>
          <span class="glyph"><CellGlyph v-if="part.cell" :cell="part.cell" :scale="0.7" /></span>
          <div class="what">
            <strong>{{ nameOf(part) }}</strong>
            <span class="quiet">{{ part.says }}</span>
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
    <ElButton v-else type="primary" plain @click="edit('new')">Add one</ElButton>

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
nav button.is-current {
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
