<script setup lang="ts">
/** The bay by calipers, in the order a maker measures: room, walls, what stands in it. */
import { computed, ref } from 'vue'

import type { Bay, Draft } from '@/api/client'
import ChoiceField from '@/kit/ChoiceField.vue'
import ObstacleFields from '@/stations/fit/ObstacleFields.vue'
import MeasuredBox from '@/stations/fit/MeasuredBox.vue'
import CountField from '@/kit/CountField.vue'
import NameField from '@/kit/NameField.vue'
import QuantityField from '@/kit/QuantityField.vue'
import CaliperHint from '@/stations/fit/CaliperHint.vue'
import { useUnits } from '@/composables/useUnits'
import { useOwnTools } from '@/composables/useOwnTools'
import { numberOf } from '@/document'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'
import { t } from '@/words'
import { WALLS } from '@/stations/fit/walls'

const props = defineProps<{ bay: Bay | null | undefined }>()
const conversion = useConversion()
const { length: unit } = useUnits()
defineExpose({ unit })

const measured = computed(() => conversion.document!.gadget.bay)
const gadget = computed(() => conversion.document!.gadget)
const touched = ref('')
const refused = computed(() => conversion.refusalAt('gadget.bay') ?? conversion.refusalAt('gadget.bay.rooms'))

const reference = useReference()
const { calipersMm } = useOwnTools()
const SIDES = ['left', 'right', 'front', 'back', 'floor', 'lid'] as const

/** Calipers replace figure by figure what the old batteries told; until then each stays a guess. */
function start(): void {
  conversion.change((document) => {
    document.gadget.bay = JSON.parse(
      JSON.stringify(
        props.bay ?? { rooms: [{ size_mm: [60, 35, 15], troughs: 0, corner_mm: 0, narrows_mm: 0 }] },
      ),
    ) as Bay
    document.gadget.bay.tolerance_mm = calipersMm() ?? document.gadget.bay.tolerance_mm
    document.basis = { ...document.basis, 'gadget.bay': 'inferred' }
  })
}

function change(mutate: (bay: Draft<Bay>) => void): void {
  conversion.change((document) => {
    if (document.gadget.bay) mutate(document.gadget.bay)
  })
}

/** Where the first room ends; its beginning, as long as its length is no number. */
const firstEnds = computed(() => numberOf(measured.value?.rooms[0]?.size_mm[0]) ?? 0)

function addRoom(): void {
  void conversion.addRow('gadget.bay.rooms', { at_mm: [firstEnds.value, 0, 0], size_mm: [15, 15, 10] })
}

/** A space elsewhere in the case, and the gap that its wires come through: both where the first room ends. */
async function addSpace(): Promise<void> {
  const number = measured.value!.rooms.length + 1
  const name = t('gap {value}', { value: (measured.value!.passages?.length ?? 0) + 1 })
  await conversion.applyEdits([
    { path: 'gadget.bay.passages.+', value: { name, at_mm: [firstEnds.value, 0, 0], size_mm: [10, 4, 4] } },
    {
      path: 'gadget.bay.rooms.+',
      value: {
        name: t('space {number}', { number }),
        at_mm: [firstEnds.value + 10, 0, 0],
        size_mm: [30, 20, 10],
      },
    },
  ])
}

function addObstacle(): void {
  const name = t('obstacle {value}', { value: measured.value!.obstacles.length + 1 })
  void conversion.addRow('gadget.bay.obstacles', {
    name,
    at_mm: [0, 0, 0],
    size_mm: [4, 4, 4],
    state: 'trim',
  })
}

function become(tube: boolean): void {
  change((bay) => {
    bay.tube = tube ? { diameter_mm: 27, length_mm: 105 } : null
    bay.rooms = tube
      ? []
      : [
          {
            id: 'room1',
            name: '',
            at_mm: [0, 0, 0],
            size_mm: [60, 35, 15],
            troughs: 0,
            corner_mm: 0,
            narrows_mm: 0,
          },
        ]
    if (tube) bay.obstacles = bay.passages = []
  })
}

/** The two triples of something that lies in the bay. */
const placed = (path: string) => [
  { path: `${path}.at_mm`, labels: [t('at x'), t('at y'), t('at z')] },
  { path: `${path}.size_mm`, labels: ['length', 'width', 'height'] },
]

/** Where a wall may be opened, in the order that a maker would say it. */
function spansOf(side: string) {
  const heights = [
    { field: 'low_mm', label: t('from'), empty: 'floor', then: 'to' },
    { field: 'high_mm', label: t('to'), empty: 'lid', then: 'up' },
  ]
  const along = [
    { field: 'from_mm', label: t('along from'), empty: 'end', then: 'to' },
    { field: 'to_mm', label: t('along to'), empty: 'end', then: 'along' },
  ]
  const thinned = {
    says: t('thinned by'),
    ends: [{ field: 'thinned_mm', label: t('thinned'), empty: '', then: '' }],
  }
  const level = side === 'floor' || side === 'lid'
  return level ? [thinned] : [{ says: '', ends: heights }, { says: '', ends: along }, thinned]
}

const opening = (side: string) => measured.value?.walls?.findIndex((wall) => wall.side === side) ?? -1
function toggle(side: (typeof SIDES)[number]): void {
  const index = opening(side)
  if (index >= 0) void conversion.removeRow('gadget.bay.walls', index)
  else void conversion.addRow('gadget.bay.walls', { side })
}
</script>

<template>
  <section aria-label="The bay" class="bay flex flex-col items-stretch gap-8">
    <div class="flex items-center justify-between">
      <h2>The bay, by calipers</h2>
      <ElRadioGroup v-model="unit" size="small" aria-label="Unit of length">
        <ElRadioButton value="mm">mm</ElRadioButton>
        <ElRadioButton value="in">inch</ElRadioButton>
      </ElRadioGroup>
    </div>
    <template v-if="!measured">
      <p class="quiet">
        {{
          bay
            ? 'So far it is only inferred from the old batteries: their size, usual room to spare, springs and ribs.'
            : 'Nothing is known of it yet.'
        }}
      </p>
      <ChoiceField
        v-if="gadget.supply.kind === 'cells' && (numberOf(gadget.supply.series) ?? 1) > 1"
        path="gadget.arrangement"
        label="They lie"
        :choices="reference.tables!.arrangements"
      />
      <ElButton type="primary" plain @click="start">Enter my own lengths</ElButton>
    </template>
    <template v-else>
      <div class="grid grid-cols-[repeat(auto-fit,minmax(230px,1fr))] items-start gap-y-6 gap-x-24">
        <CaliperHint :measure="touched" :tube="!!measured.tube" class="hint" />
        <template v-if="measured.tube">
          <div @focusin="touched = 'diameter'">
            <QuantityField path="gadget.bay.tube.diameter_mm" :unit="unit" label="Inner diameter" />
          </div>
          <div @focusin="touched = 'length'">
            <QuantityField path="gadget.bay.tube.length_mm" :unit="unit" label="Length inside" />
          </div>
        </template>
        <template v-else>
          <div @focusin="touched = 'length'">
            <QuantityField path="gadget.bay.rooms.0.size_mm.0" :unit="unit" label="Length inside" />
          </div>
          <div @focusin="touched = 'width'">
            <QuantityField path="gadget.bay.rooms.0.size_mm.1" :unit="unit" label="Width inside" />
          </div>
          <div @focusin="touched = 'height'">
            <QuantityField path="gadget.bay.rooms.0.size_mm.2" :unit="unit" label="Height under the lid" />
          </div>
        </template>
        <template v-if="!measured.tube">
          <CountField
            path="gadget.bay.rooms.0.troughs"
            label="Round troughs in its floor"
            :least="0"
            :most="6"
          />
          <p v-if="conversion.refusalAt('gadget.bay.rooms.0')" class="error-line" role="alert">
            {{ conversion.refusalAt('gadget.bay.rooms.0') }}
          </p>
          <QuantityField
            path="gadget.bay.rooms.0.corner_mm"
            :unit="unit"
            label="Its corners' radius"
            no-basis
          />
          <QuantityField
            v-if="measured.rooms.length === 1"
            path="gadget.bay.rooms.0.narrows_mm"
            :unit="unit"
            label="Narrower at its floor by"
            no-basis
          />
        </template>
        <div @focusin="touched = 'wall'">
          <QuantityField path="gadget.bay.wall_mm" :unit="unit" label="Wall" />
        </div>
        <div v-if="!measured.tube" @focusin="touched = 'lid'">
          <QuantityField path="gadget.bay.lid_raised_mm" :unit="unit" label="Lid raised by" no-basis />
        </div>
        <div v-if="!measured.tube" @focusin="touched = 'lid'">
          <QuantityField
            path="gadget.bay.lid_raise_mm"
            :unit="unit"
            label="and by no more than"
            placeholder="any"
            no-basis
          />
        </div>
        <div v-if="!measured.tube" @focusin="touched = 'lid_depth'">
          <QuantityField path="gadget.bay.lid_depth_mm" :unit="unit" label="Lid itself is deep" no-basis />
        </div>
        <QuantityField path="gadget.bay.tolerance_mm" :unit="unit" label="Calipers right to" no-basis />
      </div>
      <p v-if="refused" class="error-line" role="alert">{{ refused }}</p>

      <fieldset class="flex flex-wrap gap-y-0 gap-x-18 m-0 p-0 border-0">
        <legend class="float-left mr-16 p-0 leading-[32px]">Walls that may be opened</legend>
        <template v-for="side in SIDES" :key="side">
          <ElCheckbox :model-value="opening(side) >= 0" @update:model-value="toggle(side)">{{
            WALLS[side]
          }}</ElCheckbox>
        </template>
      </fieldset>
      <div
        v-for="(wall, index) in measured.walls"
        :key="wall.side"
        class="flex flex-wrap items-center gap-y-4 gap-x-14 text-small"
      >
        <b class="min-w-38">{{ WALLS[wall.side] }}</b>
        <span
          v-for="span in spansOf(wall.side)"
          :key="span.ends[0]!.field"
          class="flex flex-wrap items-center gap-6"
        >
          {{ span.says }}
          <template v-for="end in span.ends" :key="end.field">
            <QuantityField
              :path="`gadget.bay.walls.${index}.${end.field}`"
              :unit="unit"
              :label="`${WALLS[wall.side]} ${end.label}`"
              :placeholder="end.empty"
              bare
              no-basis
            />
            {{ end.then }}
          </template>
        </span>
        <p v-if="conversion.refusalAt(`gadget.bay.walls.${index}`)" class="error-line" role="alert">
          {{ conversion.refusalAt(`gadget.bay.walls.${index}`) }}
        </p>
      </div>

      <template v-if="!measured.tube">
        <MeasuredBox
          v-for="(room, index) in measured.rooms!.slice(1)"
          :key="room.id"
          :name="room.name || `neighbour space ${index + 2}`"
          :unit="unit"
          :measures="placed(`gadget.bay.rooms.${index + 1}`)"
          @remove="conversion.removeRow('gadget.bay.rooms', index + 1)"
        />
        <MeasuredBox
          v-for="(gap, index) in measured.passages"
          :key="gap.id"
          :name="gap.name"
          :unit="unit"
          :measures="placed(`gadget.bay.passages.${index}`)"
          @remove="conversion.removeRow('gadget.bay.passages', index)"
        >
          <NameField :path="`gadget.bay.passages.${index}.name`" label="Name of the gap" />
          <span class="quiet small">for wires alone</span>
        </MeasuredBox>
      </template>
      <ObstacleFields
        v-for="(obstacle, index) in measured.obstacles"
        :key="obstacle.id"
        :index="index"
        :unit="unit"
      />
      <div class="acts flex flex-wrap gap-y-4 gap-x-20 [&>button]:whitespace-nowrap">
        <button type="button" class="bare" @click="addObstacle">+ obstacle</button>
        <button v-if="!measured.tube" type="button" class="bare" @click="addRoom">+ neighbour space</button>
        <button v-if="!measured.tube" type="button" class="bare" @click="addSpace">
          + space elsewhere in the case
        </button>
        <button type="button" class="bare" @click="become(!measured.tube)">
          {{ measured.tube ? 'it is a box' : 'it is a tube' }}
        </button>
      </div>
    </template>
  </section>
</template>

<style scoped>
.bay > .el-button {
  align-self: flex-start;
}
.hint {
  grid-row: span 3;
}
.acts button {
  color: var(--copper);
  font-weight: 600;
}
</style>
