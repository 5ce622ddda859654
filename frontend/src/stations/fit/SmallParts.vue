<script setup lang="ts">
/** What else has to go in: a lamp on wires, a switch of its own, a spacer that holds a place. */
import { computed } from 'vue'

import type { SmallPartUse } from '@/api/client'
import MeasuredBox from '@/stations/fit/MeasuredBox.vue'
import NameField from '@/kit/NameField.vue'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

defineProps<{ unit: string }>()
const conversion = useConversion()
const reference = useReference()
const path = computed(() => `${conversion.buildPath}.small_parts`)
const parts = computed(() => conversion.build?.small_parts ?? [])
const kinds = computed(() => reference.tables!.small_parts)

function add(use: SmallPartUse): void {
  const taken = new Set(parts.value.map((part) => part.name))
  const plain = use.label.toLowerCase()
  let name = plain
  for (let number = 2; taken.has(name); number++) name = `${plain} ${number}`
  void conversion.addRow(path.value, { kind: use.value, name, size_mm: [...use.usual_mm] })
}

const labels = (kind: string) =>
  kind === 'spacer' ? ['length', 'width', 'height'] : [t('behind the wall'), 'width', 'height']
</script>

<template>
  <section aria-label="Small parts">
    <h2>What else goes in</h2>
    <MeasuredBox
      v-for="(part, index) in parts"
      :key="part.id"
      :name="part.name"
      :unit="unit"
      :measures="[{ path: `${path}.${index}.size_mm`, labels: labels(part.kind) }]"
      @remove="conversion.removeRow(path, index)"
    >
      <NameField :path="`${path}.${index}.name`" :label="`Name of the ${part.kind}`" />
    </MeasuredBox>
    <div class="flex gap-20 px-0 py-4">
      <button
        v-for="use in kinds"
        :key="use.value"
        type="button"
        class="bare text-copper font-semibold"
        :title="use.detail"
        @click="add(use)"
      >
        + {{ use.label.toLowerCase() }}
      </button>
    </div>
  </section>
</template>
