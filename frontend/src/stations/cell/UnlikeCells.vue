<script setup lang="ts">
/** Cells beside the first that are not like it, each with its own readings. */
import { computed } from 'vue'

import type { Cell } from '@/api/client'
import NameField from '@/kit/NameField.vue'
import PickField from '@/kit/PickField.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { useConversion } from '@/stores/conversion'
import { useInventory } from '@/stores/inventory'
import { t } from '@/words'

const conversion = useConversion()
const inventory = useInventory()
const path = computed(() => `${conversion.buildPath}.unlike_cells`)
const cells = computed(() => conversion.build?.unlike_cells ?? [])

const own = computed(() => inventory.cells.map((part) => ({ value: part.id, label: part.cell!.name })))
const add = (cell: Cell) => conversion.applyEdits([{ path: `${path.value}.+`, value: cell }])
const remove = (id: string) => conversion.applyEdits([{ path: `${path.value}.${id}`, value: null }])

function addOwn(id: number): void {
  const part = inventory.cells.find((one) => one.id === id)
  if (part) void add(inventory.asCell(part))
}

/** One like the first to begin with; its own figures are typed over it. */
function addAnother(): void {
  const first = conversion.build!.cell!
  const { cell_class, form, size_mm, capacity_ah } = JSON.parse(JSON.stringify(first)) as Cell
  void add({ name: t('Another cell'), cell_class, form, size_mm, capacity_ah } as Cell)
}
</script>

<template>
  <section class="mt-8" aria-label="Unlike cells beside it">
    <div
      v-for="cell in cells"
      :key="cell.id"
      class="grid grid-cols-[repeat(auto-fit,minmax(300px,1fr))] items-center gap-y-4 gap-x-28 py-6 border-b border-line"
      role="group"
      :aria-label="cell.name"
    >
      <span class="flex"><NameField :path="`${path}.${cell.id}.name`" label="Name of the cell" /></span>
      <QuantityField :path="`${path}.${cell.id}.capacity_ah`" unit="mAh" label="Label says" />
      <QuantityField
        :path="`${path}.${cell.id}.measured_capacity_ah`"
        unit="mAh"
        label="Measured"
        placeholder="not yet"
        empty="default"
      />
      <QuantityField
        :path="`${path}.${cell.id}.r_ohm`"
        unit="mΩ"
        label="Resistance"
        placeholder="usual"
        empty="default"
      />
      <QuantityField
        :path="`${path}.${cell.id}.intake.rest_v`"
        unit="V"
        label="At rest"
        placeholder="not yet"
        empty="default"
      />
      <button type="button" class="bare text-stop font-semibold" @click="remove(cell.id!)">
        take it out
      </button>
    </div>
    <p class="flex flex-wrap items-center gap-y-4 gap-x-14 py-6">
      <button type="button" class="bare tap text-copper font-semibold" @click="addAnother">
        + an unlike cell beside it
      </button>
      <PickField
        v-if="own.length"
        :model-value="0"
        label="from your parts"
        shown
        empty="pick one"
        :options="[{ value: 0, label: 'pick one' }, ...own]"
        @update:model-value="addOwn"
      />
    </p>
  </section>
</template>
