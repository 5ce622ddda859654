<script setup lang="ts">
/** What one mode draws at several volts, in a table; by which law, and what to read next. */
import { computed, nextTick } from 'vue'

import { api } from '@/api/client'
import LawChart from '@/stations/survey/LawChart.vue'
import SupplySweep from '@/stations/survey/SupplySweep.vue'
import { useQuestion } from '@/composables/useQuestion'
import QuantityField from '@/kit/QuantityField.vue'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ index: number }>()

const conversion = useConversion()
const mode = computed(() => conversion.document!.gadget.modes[props.index]!)
const path = computed(() => `gadget.modes.${props.index}.readings`)
const rows = computed(() => mode.value.readings ?? [])
const laws = useQuestion((body) =>
  api.POST('/api/questions/load-law', { body: { ...body, mode: mode.value.id ?? '' } }),
)
const { late } = laws

async function add(): Promise<void> {
  const number = rows.value.length
  await conversion.applyEdits([{ path: `${path.value}.+`, value: { volts: null, current_a: null } }])
  await nextTick()
  document.querySelector<HTMLInputElement>(`[data-path="${path.value}.${number}.volts"]`)?.focus()
}
</script>

<template>
  <section class="col-span-full" :aria-label="`${mode.name} at several volts`">
    <h3 class="mx-0 mt-8 mb-2 text-small font-semibold">At several volts: how does its current change?</h3>
    <div class="grid grid-cols-[minmax(0,1fr)] gap-8">
      <div class="grid content-start gap-4">
        <div
          v-for="(reading, number) in rows"
          :key="reading.id"
          class="grid grid-cols-[130px_130px_24px] items-center gap-6"
        >
          <QuantityField :path="`${path}.${number}.volts`" unit="V" label="Volts read" bare no-basis />
          <QuantityField :path="`${path}.${number}.current_a`" unit="mA" label="Current read" bare no-basis />
          <button
            type="button"
            class="bare h-28 text-ink2 text-head text-center hover:text-stop"
            :aria-label="`Remove reading ${number + 1}`"
            @click="conversion.removeRow(path, number)"
          >
            ×
          </button>
        </div>
        <button type="button" class="bare justify-self-start text-copper font-semibold" @click="add">
          + reading
        </button>
        <SupplySweep :mode="mode.id ?? ''" :name="mode.name ?? ''" />
      </div>
      <div v-if="laws" class="grid content-start gap-6" :class="{ late }">
        <p class="m-0">
          <b>{{ laws.headline }}</b> {{ laws.detail }}
        </p>
        <LawChart v-if="laws.curves.length" :laws="laws" />
        <p v-if="laws.wanted" class="m-0">{{ laws.wanted }}</p>
        <ElButton
          v-if="laws.edits.length"
          class="justify-self-start"
          type="primary"
          plain
          @click="conversion.applyEdits(laws.edits)"
          >Put it into the survey, as measured</ElButton
        >
      </div>
    </div>
  </section>
</template>
