<script setup lang="ts">
/** The obstacle that is picked on the drawing, by its figures; moved and drawn larger by hand, or here by number. */
import { computed } from 'vue'

import CheckField from '@/kit/CheckField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import MeasuredBox from '@/components/MeasuredBox.vue'
import NameField from '@/kit/NameField.vue'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

const props = defineProps<{ id: string; unit: 'mm' | 'in' }>()
const conversion = useConversion()
const reference = useReference()
const index = computed(
  () => conversion.document?.gadget.bay?.obstacles?.findIndex((one) => one.id === props.id) ?? -1,
)
const obstacle = computed(() => conversion.document?.gadget.bay?.obstacles?.[index.value])
const path = computed(() => `gadget.bay.obstacles.${index.value}`)
const measures = computed(() => [
  { path: `${path.value}.at_mm`, labels: ['at x', 'at y', 'at z'] },
  { path: `${path.value}.size_mm`, labels: ['length', 'width', 'height'] },
])
</script>

<template>
  <section
    v-if="obstacle"
    class="flex flex-col gap-4 px-12 py-8 border-l-3 border-copper bg-sheet"
    :aria-label="`Change ${obstacle.name}`"
  >
    <h2 class="m-0">{{ obstacle.name }}</h2>
    <MeasuredBox
      :name="obstacle.name"
      :unit="unit"
      :measures="measures"
      @remove="conversion.removeRow('gadget.bay.obstacles', index)"
    >
      <NameField :path="`${path}.name`" label="Name of this obstacle" />
      <ChoiceField
        :path="`${path}.state`"
        :label="obstacle.name"
        :choices="reference.tables!.obstacle_states"
        bare
      />
      <CheckField
        v-if="!conversion.document?.gadget.bay?.tube"
        :path="`${path}.on_lid`"
        label="hangs from the lid"
      />
    </MeasuredBox>
  </section>
</template>
