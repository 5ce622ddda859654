<script setup lang="ts">
/** The picture one solders from: the wires of this step lit and lettered, each ticked off when it is on. */
import { computed } from 'vue'

import { api, type WiringReply } from '@/api/client'
import { useQuestion } from '@/composables/useQuestion'
import HookUpDrawing from '@/drawings/HookUpDrawing.vue'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ step: string }>()
const conversion = useConversion()
const reply = useQuestion<WiringReply>(async (body) => await api.POST('/api/questions/wiring', { body }), 20)
type Wire = WiringReply['cut_list'][number]

const wires = computed(() => reply.value?.cut_list.filter((wire) => wire.step === props.step) ?? [])
const key = (wire: Wire) => `${wire.start} to ${wire.end}`
const on = computed(() => new Set(conversion.build?.record?.soldered ?? []))
const soldered = computed(
  () => reply.value?.cut_list.filter((wire) => on.value.has(key(wire))).map(({ letter }) => letter) ?? [],
)
const left = computed(() => wires.value.filter((wire) => !on.value.has(key(wire))))

function tick(wire: Wire): void {
  const now = new Set(on.value)
  if (!now.delete(key(wire))) now.add(key(wire))
  conversion.edit(`${conversion.buildPath}.record.soldered`, [...now])
}
</script>

<template>
  <section v-if="reply && wires.length" class="wires-to-solder" aria-label="Wires to solder">
    <HookUpDrawing
      :drawing="reply.drawing"
      trace=""
      :lit="wires.map(({ letter }) => letter)"
      :soldered="soldered"
    />
    <p class="quiet small" role="status">
      {{ wires.length - left.length }} of {{ wires.length }} are on{{
        left[0] ? `; next: ${left[0].letter}` : ''
      }}.
    </p>
    <ul class="mx-0 mt-4 mb-12 p-0 list-none">
      <li
        v-for="wire in wires"
        :key="wire.letter"
        class="flex flex-wrap justify-between gap-y-2 gap-x-12 border-b border-line"
      >
        <label class="min-h-40 leading-[40px]">
          <input type="checkbox" :checked="on.has(key(wire))" @change="tick(wire)" />
          <b>{{ wire.letter }}</b> {{ wire.start.replace('.', ' ') }} to {{ wire.end.replace('.', ' ') }}
        </label>
        <span class="quiet">{{ wire.colour }}, {{ wire.length_mm.text }}, {{ wire.gauge }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
/* The whole of it at once: on the bench nobody pushes a picture about. */
.wires-to-solder :deep(svg) {
  min-width: 0 !important;
}
</style>
