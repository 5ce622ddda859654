<script setup lang="ts">
/** The picked part: which way round, at which wall, at which place; the search works round what is held. */
import { computed } from 'vue'

import type { Placement } from '@/api/client'
import PickField from '@/kit/PickField.vue'
import TypedInput from '@/kit/TypedInput.vue'
import { fixed } from '@/format'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const props = defineProps<{ part: Placement }>()
const conversion = useConversion()
const SIDES = ['left', 'right', 'front', 'back', 'floor', 'lid'] as const
const sides = [
  { value: '' as const, label: t('no wall in particular') },
  ...SIDES.map((value) => ({ value, label: value })),
]
const ways = computed(() => [
  { value: '', label: t('as the search likes') },
  ...props.part.ways.map((value) => ({ value, label: value })),
])

type Pin = NonNullable<NonNullable<typeof conversion.build>['pins']>[number]
const pins = computed<Pin[]>(() => conversion.build?.pins ?? [])
const pin = computed(() => pins.value.find((one) => one.part === props.part.part))

const rooms = computed(() => [
  { value: '', label: t('any space') },
  ...(conversion.document?.gadget.bay?.rooms ?? []).map((room, n) => ({
    value: room.id,
    label: room.name || (n ? t('space {value}', { value: n + 1 }) : t('the battery bay')),
  })),
])

function hold(change: Partial<Pin>): void {
  conversion.change((document) => {
    const build = document.builds[conversion.buildIndex]!
    const free: Pin = { id: '', part: props.part.part, at_mm: null, side: null, room: '', turned: null }
    const next = { ...free, ...pin.value, ...change }
    const others = (build.pins ?? []).filter((one) => one.part !== props.part.part)
    const holds = next.at_mm || next.side || next.room || next.turned
    build.pins = holds ? [...others, next] : others
  })
}

/** What is typed goes to the core as it is: it reads "12.5", "1/2 in" or refuses it. */
function place(axis: number, text: string): void {
  const corner: unknown[] = [...(pin.value?.at_mm ?? props.part.min_mm)]
  corner[axis] = text
  hold({ at_mm: corner as number[], side: null })
}
</script>

<template>
  <section
    class="pins flex flex-wrap items-center gap-y-6 gap-x-18 px-12 py-8 border-l-3 border-copper bg-sheet"
    :aria-label="`Hold ${part.part}`"
  >
    <h2 class="basis-full m-0">{{ part.part }}</h2>
    <PickField
      :model-value="pin?.turned ?? ''"
      label="turned"
      :options="ways"
      shown
      @update:model-value="hold({ turned: $event || null })"
    />
    <PickField
      :model-value="pin?.side ?? ''"
      label="against"
      :options="sides"
      shown
      @update:model-value="hold({ side: $event || null, at_mm: null })"
    />
    <PickField
      v-if="rooms.length > 2"
      :model-value="pin?.room ?? ''"
      label="kept to"
      :options="rooms"
      shown
      @update:model-value="hold({ room: $event })"
    />
    <span class="inline-flex items-center gap-5">
      its corner at
      <TypedInput
        v-for="(axis, index) in ['x', 'y', 'z']"
        :key="axis"
        class="h-28 w-58 px-6 py-0 framed bg-paper text-ink text-body font-mono text-right"
        :aria-label="`corner ${axis}, mm`"
        :value="pin?.at_mm?.[index] ?? fixed(part.min_mm[index]!, 1)"
        :class="{ free: !pin?.at_mm }"
        @settle="place(index, $event)"
      />
      mm
    </span>
    <button
      v-if="pin"
      type="button"
      class="bare text-copper font-semibold"
      @click="hold({ at_mm: null, side: null, turned: null })"
    >
      Let it go
    </button>
    <span v-else class="quiet small">Drag it in the view from above, or type a place, to hold it there.</span>
  </section>
</template>

<style scoped>
input.free {
  color: var(--ink2);
  font-style: italic;
}
</style>
