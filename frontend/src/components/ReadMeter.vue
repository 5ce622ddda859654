<script setup lang="ts">
/** Takes a reading from a connected meter at a press. Nothing is shown where none gives these figures. */
import { computed, onMounted, ref } from 'vue'

import type { ShownNow } from '@/api/client'
import { useConversion } from '@/stores/conversion'
import { useMeters, type MeterFigure } from '@/stores/meters'
import { t } from '@/words'

const props = defineProps<{ figures: MeterFigure[] }>()
const emit = defineEmits<{ reading: [shown: ShownNow, meter: string] }>()
const conversion = useConversion()
const meters = useMeters()
onMounted(() => meters.loadOnce())

const fitting = computed(() =>
  meters.connections.filter((meter) => meter.reads.some((figure) => props.figures.includes(figure))),
)
const busy = ref('')
const problem = ref('')

async function take(meter: (typeof fitting.value)[number]): Promise<void> {
  busy.value = meter.name
  const shown = await meters.read(meter)
  busy.value = ''
  problem.value = meters.problem
  if (!shown) return
  if (shown.origin === 'simulated' && !conversion.build?.practice)
    problem.value = t('That meter is a stand-in: what it shows goes into practice copies alone.')
  else emit('reading', shown, meter.name)
}
</script>

<template>
  <span v-if="fitting.length" class="read-meter">
    <button
      v-for="meter in fitting"
      :key="meter.name"
      type="button"
      class="bare link-button"
      :disabled="!!busy"
      @click="take(meter)"
    >
      {{ busy === meter.name ? 'Reading …' : `Read ${meter.name}` }}
    </button>
    <span v-if="problem" class="error-line" role="alert">{{ problem }}</span>
  </span>
</template>
