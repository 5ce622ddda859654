<script setup lang="ts">
/** Every cell with every charger, tried in this bay: a search that shows how far it is and can be stopped. */
import { api, type Cell, type Sweep } from '@/api/client'
import { useAskedOf } from '@/composables/useAskedOf'
import { useLongWork } from '@/composables/useLongWork'
import { useQuestion } from '@/composables/useQuestion'
import { useConversion } from '@/stores/conversion'
import { useInventory } from '@/stores/inventory'
import { useReference } from '@/stores/reference'
import { useUnits } from '@/composables/useUnits'
import { t } from '@/words'

const { length, lengthText } = useUnits()
const conversion = useConversion()
const largest = useQuestion(async (body) => await api.POST('/api/questions/fit/larger-cell', { body }))
const reference = useReference()
const inventory = useInventory()

const path = (id: number) => ({ params: { path: { job_id: id } } })
const {
  work: sweep,
  problem,
  start,
  stop,
} = useLongWork<Sweep>({
  look: (id) => api.GET('/api/questions/fit/sweep/{job_id}', path(id)),
  cancel: (id) => api.DELETE('/api/questions/fit/sweep/{job_id}', { ...path(id), keepalive: true }),
  everyMs: 150,
})
const { isOld, note } = useAskedOf(() => void begin())
function begin(): Promise<void> {
  note()
  return start(() => api.POST('/api/questions/fit/sweep', { body: conversion.question() }))
}

function take(name: string): void {
  const own = inventory.cells.find((part) => part.cell?.name === name)
  const cell = own ? inventory.asCell(own) : reference.cells.find((part) => part.cell?.name === name)?.cell
  if (cell) conversion.edit(`${conversion.buildPath}.cell`, JSON.parse(JSON.stringify(cell)) as Cell)
}
const words = (mm: number) =>
  mm >= 0 ? t('{length} more', { length: lengthText(mm) }) : t('{length} less', { length: lengthText(-mm) })
</script>

<template>
  <section aria-label="What would fit">
    <h2 class="mx-0 mt-16 mb-4">What would fit</h2>
    <p v-if="largest?.length" class="quiet">
      In one measure alone this cell could have
      {{ largest.map((one) => `${words(one.mm)} ${one.measure}`).join(', ') }}.
    </p>
    <div class="flex items-center gap-12 mx-0 my-6">
      <ElButton v-if="sweep?.state !== 'running'" @click="begin">Try every cell and charger</ElButton>
      <template v-else>
        <progress
          class="w-180 accent-copper"
          :value="sweep.done"
          :max="sweep.total || 1"
          aria-label="Tried so far"
        />
        <span>{{ sweep.done }} of {{ sweep.total }}</span>
        <ElButton size="small" @click="stop">Stop</ElButton>
      </template>
      <span v-if="sweep && sweep.state !== 'running'" class="quiet" role="status"
        >{{ sweep.fitting.length }} of {{ sweep.done }} go in{{
          sweep.state === 'cancelled' ? ', stopped early' : ''
        }}</span
      >
    </div>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <table v-if="sweep?.fitting.length" class="ruled" :class="{ late: isOld }">
      <thead>
        <tr>
          <th>cell</th>
          <th>boards</th>
          <th class="number">Wh</th>
          <th class="number">thick, {{ length }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in sweep.fitting.slice(0, 14)" :key="one.cell + one.boards">
          <td>
            <button type="button" class="bare hover:underline" @click="take(one.cell)">{{ one.cell }}</button>
          </td>
          <td class="quiet">{{ one.boards }}</td>
          <td class="number">{{ one.energy_wh.text }}</td>
          <td class="number">{{ one.thickness_mm.text }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
