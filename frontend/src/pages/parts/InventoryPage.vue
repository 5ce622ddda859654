<script setup lang="ts">
/** Your parts: the maker's own cells with their grades and matches, boards, regulators and resistors. */
import { computed, nextTick, onMounted, ref } from 'vue'

import { api, sentenceOf, type ListedPack, type OwnPart } from '@/api/client'
import CellTest from '@/pages/parts/CellTest.vue'
import CellHistory from '@/pages/parts/CellHistory.vue'
import GradeLine from '@/components/GradeLine.vue'
import PageFrame from '@/kit/PageFrame.vue'
import PartEditor from '@/pages/parts/PartEditor.vue'
import CellGlyph from '@/drawings/CellGlyph.vue'
import { useInventory, type InventoryKind } from '@/stores/inventory'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const props = defineProps<{ code?: string }>()

const inventory = useInventory()
const reference = useReference()
const kind = ref<InventoryKind>('cell')
const edited = ref<number | 'new'>()
const packs = ref<ListedPack[]>([])

onMounted(() => {
  document.title = t('Your parts · Pocket Spark')
  void inventory.load().then(() => find(props.code ?? ''))
  void api.GET('/api/packs').then(({ data }) => (packs.value = data ?? []))
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

async function learn(part: OwnPart): Promise<void> {
  const { error } = await api.POST('/api/inventory/{part_id}/batch', {
    params: { path: { part_id: part.id } },
  })
  inventory.problem = error ? sentenceOf(error) : ''
  await inventory.load()
}

const typedCode = ref('')
const found = ref<number>()
const notFound = ref('')
/** The cell whose label was typed, or read by a camera: it comes to where one looks. */
async function find(code: string): Promise<void> {
  if (!code.trim()) return
  const params = { path: { code } }
  const { data, error } = await api.GET('/api/inventory/by-code/{code}', { params })
  notFound.value = error ? sentenceOf(error) : ''
  found.value = data?.id
  if (!data) return
  show(data.kind)
  await nextTick()
  document.getElementById(`part-${data.id}`)?.scrollIntoView({ block: 'center' })
}

const nameOf = (part: OwnPart) => part.cell?.name ?? part.board?.name ?? part.resistor?.name ?? ''
</script>

<template>
  <PageFrame title="Your parts">
    <nav class="flex flex-wrap gap-4 mx-0 mt-12 mb-8 border-b border-line2" aria-label="Your parts">
      <button
        v-for="each in kinds"
        :key="each.kind"
        class="px-14 py-5 border-b-3 border-transparent text-ink2 hover:bg-sunk current:border-copper current:text-ink current:font-bold"
        type="button"
        :class="['bare', { 'is-current': each.kind === kind }]"
        :aria-current="each.kind === kind ? 'page' : undefined"
        @click="show(each.kind)"
      >
        {{ each.label }} <small>{{ inventory.parts.filter((part) => part.kind === each.kind).length }}</small>
      </button>
    </nav>
    <p class="quiet">
      {{ current.teaches }}
      <RouterLink v-if="kind === 'cell'" class="mr-12" to="/drawer">Who gets which cell?</RouterLink>
      <RouterLink to="/shopping">What to buy for all</RouterLink>
    </p>
    <form
      v-if="kind === 'cell'"
      class="flex flex-wrap items-center gap-x-14 gap-y-6"
      @submit.prevent="find(typedCode)"
    >
      <label class="flex items-center gap-8"
        >Code on its label
        <input
          v-model="typedCode"
          class="text-input w-100 px-9 font-mono"
          maxlength="40"
          autocomplete="off"
          spellcheck="false"
          placeholder="C12-4"
      /></label>
      <ElButton native-type="submit" plain>Find it</ElButton>
      <a class="tap" href="/api/inventory/labels" download>Labels of tested cells, PDF</a>
      <p v-if="notFound" class="error-line basis-full" role="alert">{{ notFound }}</p>
    </form>
    <p v-if="inventory.problem && !edited" class="error-line" role="alert">{{ inventory.problem }}</p>

    <ul class="parts mx-0 my-10 p-0 border-t border-line list-none">
      <li
        v-for="part in parts"
        :id="`part-${part.id}`"
        :key="part.id"
        :class="{ 'bg-copperwash': found === part.id }"
        class="grid grid-cols-[84px_minmax(180px,1fr)_minmax(0,1.6fr)_48px_130px] items-start gap-y-4 gap-x-16 px-2 py-10 border-b border-line narrow:grid-cols-[minmax(0,1fr)_auto]"
      >
        <PartEditor v-if="edited === part.id" :kind="kind" :part="part" @done="edit(undefined)" />
        <template v-else>
          <span class="glyph narrow:hidden"
            ><CellGlyph v-if="part.cell" :cell="part.cell" :scale="0.7"
          /></span>
          <div class="flex flex-col">
            <strong>{{ nameOf(part) }}</strong>
            <span class="quiet">{{ part.says }}</span>
            <span v-if="part.where" class="small">{{ part.where }}</span>
            <span v-if="part.used_by.length" class="small">in {{ part.used_by.join(', ') }}</span>
            <span v-if="part.code" class="small font-mono">{{ part.code }}</span>
          </div>
          <GradeLine v-if="part.grade" :grade="part.grade" class="said" />
          <span v-else class="said">
            <template v-if="part.batch">
              {{ part.batch.says }}.
              <button
                v-if="part.batch.changes"
                type="button"
                class="bare text-copper font-semibold"
                @click="learn(part)"
              >
                Plan the next one with it
              </button>
            </template>
          </span>
          <span class="text-right">{{ part.stock }} ×</span>
          <span class="acts flex gap-14">
            <button type="button" class="bare text-copper font-semibold" @click="edit(part.id)">
              Change
            </button>
            <button
              type="button"
              class="bare text-copper font-semibold"
              :aria-label="`Take out ${nameOf(part)}`"
              @click="inventory.remove(part)"
            >
              Take out
            </button>
          </span>
          <CellHistory v-if="part.cell" :part="part" />
          <CellTest v-if="part.cell" :part="part" />
        </template>
      </li>
    </ul>
    <PartEditor v-if="edited === 'new'" :key="kind" :kind="kind" @done="edit(undefined)" />
    <ElButton v-else type="primary" plain @click="edit('new')">Add one</ElButton>

    <section v-if="kind === 'cell' && inventory.matches.length" aria-label="In parallel">
      <h2 class="mx-0 mt-24 mb-6">Which go together in parallel</h2>
      <ul class="m-0 p-0 list-none">
        <li v-for="pair in good" :key="`${pair.first}-${pair.second}`" class="px-0 py-4 border-b border-line">
          <b>{{ pair.names[0] }}</b> and <b>{{ pair.names[1] }}</b>: {{ pair.match.joined }}
        </li>
        <li
          v-for="pair in bad"
          :key="`${pair.first}-${pair.second}`"
          class="quiet px-0 py-4 border-b border-line"
        >
          {{ pair.names[0] }} and {{ pair.names[1] }}: no. {{ pair.match.spoilers.join('; ') }}
        </li>
      </ul>
      <p class="quiet small">Joined only at nearly the same volts, first through a resistor if in doubt.</p>
    </section>
    <section v-if="packs.length" aria-label="Packs">
      <h2 class="mx-0 mt-24 mb-6">Packs of others, in the lists behind the library</h2>
      <ul class="m-0 p-0 list-none">
        <li v-for="pack in packs" :key="pack.file" class="px-0 py-4 border-b border-line">
          <template v-if="pack.why_not"
            ><b>{{ pack.file }}</b> is not used: {{ pack.why_not }}.</template
          >
          <template v-else>
            <b>{{ pack.title }} {{ pack.version }}</b
            >, {{ pack.parts }} parts. {{ pack.origin }}. Licence: {{ pack.licence }}.
          </template>
        </li>
      </ul>
    </section>
  </PageFrame>
</template>

<style scoped>
.parts li > form {
  grid-column: 1 / -1;
}
@media (max-width: 860px) {
  .said,
  .acts {
    grid-column: 1 / -1;
  }
}
</style>
