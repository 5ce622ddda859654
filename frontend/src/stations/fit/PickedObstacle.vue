<script setup lang="ts">
/** The obstacle that is picked on the drawing, by its figures: moved and made larger by hand there, by number here. */
import { computed } from 'vue'

import ObstacleFields from '@/stations/fit/ObstacleFields.vue'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ id: string; unit: 'mm' | 'in' }>()
const conversion = useConversion()
const obstacles = computed(() => conversion.document?.gadget.bay?.obstacles ?? [])
const index = computed(() => obstacles.value.findIndex((one) => one.id === props.id))
</script>

<template>
  <section
    v-if="index >= 0"
    class="flex flex-col gap-4 mt-8 px-12 py-8 border-l-3 border-copper bg-sheet"
    :aria-label="`Change ${obstacles[index]!.name}`"
  >
    <ObstacleFields :index="index" :unit="unit" />
  </section>
</template>
