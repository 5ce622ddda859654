<script setup lang="ts">
/** The ways the gadget is used, each with its measured current. */
import { computed, nextTick } from 'vue'

import ChoiceField from '@/kit/ChoiceField.vue'
import QuantityField from '@/kit/QuantityField.vue'
import type { Choice } from '@/api/client'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

const conversion = useConversion()
const reference = useReference()
const gadget = computed(() => conversion.document!.gadget)
const modes = computed(() => gadget.value.modes ?? [])
const laws = computed<Choice[]>(() => [
  { value: '', label: 'as usual for what the batteries feed', detail: '', asks: [] },
  ...reference.tables!.laws,
])

async function add(): Promise<void> {
  const index = modes.value.length
  const mode = { name: index ? `mode ${index + 1}` : 'on', current_a: 0.02 }
  await conversion.applyEdits([
    { path: 'gadget.modes.+', value: mode },
    { path: `basis.gadget.modes.${index}.current_a`, value: 'inferred' },
  ])
  await nextTick()
  document.querySelector<HTMLInputElement>(`[data-path="gadget.modes.${index}.current_a"]`)?.select()
}
</script>

<template>
  <div v-if="!modes.length" class="teach">
    <p>
      Nothing measured yet. Put a multimeter on its current range in series with the old batteries, switch the
      gadget on, and write down what it draws.
    </p>
    <ElButton type="primary" @click="add">Add the first mode</ElButton>
  </div>
  <template v-else>
    <div v-for="(mode, index) in modes" :key="mode.id" class="mode">
      <input
        class="name"
        :value="mode.name"
        aria-label="Name of the mode"
        maxlength="40"
        @change="conversion.edit(`gadget.modes.${index}.name`, ($event.target as HTMLInputElement).value)"
      />
      <QuantityField :path="`gadget.modes.${index}.current_a`" unit="mA" label="current" bare />
      <QuantityField
        :path="`gadget.modes.${index}.hours_per_day`"
        unit="h/day"
        label="hours a day"
        bare
        no-basis
      />
      <button
        type="button"
        class="bare remove"
        :aria-label="`Remove ${mode.name}`"
        @click="conversion.removeRow('gadget.modes', index)"
      >
        ×
      </button>
      <details>
        <summary>
          {{ mode.on_s && mode.every_s ? `${mode.on_s} s of every ${mode.every_s} s, ` : ''
          }}{{ mode.at_v ? `read at ${mode.at_v} V` : 'read at the old batteries’ volts' }},
          {{ reference.labelOf(laws, mode.law ?? '') }}
        </summary>
        <div class="more">
          <QuantityField :path="`gadget.modes.${index}.at_v`" unit="V" label="Read at" no-basis />
          <QuantityField :path="`gadget.modes.${index}.peak_a`" unit="mA" label="Peak at start" no-basis />
          <ChoiceField
            :path="`gadget.modes.${index}.law`"
            label="How its current changes with the volts"
            :choices="laws"
          />
          <QuantityField
            :path="`gadget.modes.${index}.on_s`"
            unit="s"
            label="Pulses: on for"
            placeholder="steady"
            no-basis
          />
          <QuantityField :path="`gadget.modes.${index}.every_s`" unit="s" label="of every" no-basis />
          <p v-if="conversion.refusalAt(`gadget.modes.${index}`)" class="error-line" role="alert">
            {{ conversion.refusalAt(`gadget.modes.${index}`) }}
          </p>
        </div>
      </details>
    </div>
    <div class="mode off">
      <span class="name">off</span>
      <QuantityField path="gadget.off_current_a" unit="μA" label="current when off" bare />
      <button type="button" class="bare add" @click="add">+ mode</button>
      <ChoiceField
        v-if="gadget.off_current_a"
        path="gadget.off_path"
        label="and it flows"
        :choices="reference.tables!.off_paths"
      />
    </div>
  </template>
</template>

<style scoped>
.teach {
  display: grid;
  justify-items: start;
  gap: 10px;
  padding: 12px 14px;
  border: 1px dashed var(--line2);
  border-radius: 3px;
}
.mode {
  display: grid;
  grid-template-columns: minmax(60px, 1fr) 156px 132px 24px;
  align-items: start;
  gap: 0 10px;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.name {
  min-width: 0;
  padding: 4px 6px 4px 0;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  color: var(--ink);
  font: 600 14px var(--sans);
}
input.name:hover,
input.name:focus {
  border-color: var(--line2);
}
.remove {
  height: 28px;
  color: var(--ink2);
  font-size: 18px;
  text-align: center;
}
.remove:hover {
  color: var(--stop);
}
.off :deep(.choice) {
  grid-column: 1 / -1;
  margin-top: 4px;
}
.add {
  padding: 4px 0;
  color: var(--copper);
  font-weight: 600;
}
details {
  grid-column: 1 / -1;
}
summary {
  color: var(--ink2);
  font-size: 12.5px;
  cursor: pointer;
}
.more {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 6px 18px;
  padding: 6px 0 4px;
}
@media (max-width: 480px) {
  .mode {
    grid-template-columns: 1fr 24px;
  }
  .mode .quantity {
    grid-column: 1;
  }
  .mode .remove {
    grid-column: 2;
    grid-row: 1;
  }
}
</style>
