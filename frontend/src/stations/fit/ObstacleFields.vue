<script setup lang="ts">
/** One thing that stands in the bay: its corner and size, its name, and what may be done to it. */
import { computed } from 'vue'

import CheckField from '@/kit/CheckField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import MeasuredBox from '@/stations/fit/MeasuredBox.vue'
import NameField from '@/kit/NameField.vue'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const props = defineProps<{ index: number; unit: 'mm' | 'in' }>()
const conversion = useConversion()
const reference = useReference()
const bay = computed(() => conversion.document!.gadget.bay)
const obstacle = computed(() => bay.value?.obstacles?.[props.index])
const path = computed(() => `gadget.bay.obstacles.${props.index}`)
const measures = computed(() => [
  { path: `${path.value}.at_mm`, labels: [t('at x'), t('at y'), t('at z')] },
  { path: `${path.value}.size_mm`, labels: ['length', 'width', 'height'] },
])
</script>

<template>
  <MeasuredBox
    v-if="obstacle"
    :name="obstacle.name"
    :unit="unit"
    :measures="measures"
    @remove="conversion.removeRow('gadget.bay.obstacles', index)"
  >
    <NameField :path="`${path}.name`" label="Name of the obstacle" />
    <ChoiceField
      :path="`${path}.state`"
      :label="obstacle.name"
      :choices="reference.tables!.obstacle_states"
      bare
    />
    <CheckField v-if="!bay?.tube" :path="`${path}.on_lid`" label="hangs from the lid" />
  </MeasuredBox>
</template>
