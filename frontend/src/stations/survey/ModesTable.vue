<script setup lang="ts">
/** The ways the gadget is used, each with its measured current. */
import { computed, nextTick, reactive } from 'vue'

import LawReadings from '@/stations/survey/LawReadings.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NameField from '@/kit/NameField.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { numberOf } from '@/document'
import { useConversion } from '@/stores/conversion'
import { plain } from '@/format'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const conversion = useConversion()
const reference = useReference()
const gadget = computed(() => conversion.document!.gadget)
const modes = computed(() => gadget.value.modes ?? [])
const AS_USUAL = t('as usual for what the batteries feed')

/** Modes whose rest is seen: only there is asked what its readings tell. */
const unfolded = reactive(new Set<string>())
function fold(mode: string, open: boolean): void {
  if (open) unfolded.add(mode)
  else unfolded.delete(mode)
}

async function add(): Promise<void> {
  const index = modes.value.length
  const mode = {
    name: index ? t('mode {value}', { value: index + 1 }) : 'on',
    current_a: 0,
    hours_per_day: 0,
  }
  await conversion.applyEdits([{ path: 'gadget.modes.+', value: mode }])
  await nextTick()
  document.querySelector<HTMLInputElement>(`[data-path="gadget.modes.${index}.current_a"]`)?.select()
}
</script>

<template>
  <div
    v-if="!modes.length"
    class="grid justify-items-start gap-10 px-14 py-12 border border-line2 border-dashed rounded"
  >
    <p>
      Nothing measured yet. Put a multimeter on its current range in series with the old batteries, switch the
      gadget on, and write down what it draws.
    </p>
    <ElButton type="primary" @click="add">Add the first mode</ElButton>
  </div>
  <template v-else>
    <div
      v-for="(mode, index) in modes"
      :key="mode.id"
      class="mode grid grid-cols-[minmax(60px,1fr)_156px_132px_24px] items-start gap-y-0 gap-x-10 px-0 py-5 border-b border-line narrow:grid-cols-[1fr_44px]"
    >
      <span class="flex min-w-0">
        <NameField :path="`gadget.modes.${index}.name`" label="Name of the mode" :most="40" />
      </span>
      <QuantityField
        :path="`gadget.modes.${index}.current_a`"
        unit="mA"
        label="current"
        placeholder="measure"
        bare
      />
      <QuantityField
        :path="`gadget.modes.${index}.hours_per_day`"
        unit="h/day"
        label="hours a day"
        placeholder="not said"
        bare
        no-basis
      />
      <button
        type="button"
        class="bare h-28 text-ink2 text-head text-center hover:text-stop narrow:col-start-2 narrow:row-[1]"
        :aria-label="`Remove ${mode.name}`"
        @click="conversion.removeRow('gadget.modes', index)"
      >
        ×
      </button>
      <details
        class="col-span-full"
        :open="unfolded.has(mode.id!)"
        @toggle="fold(mode.id!, ($event.target as HTMLDetailsElement).open)"
      >
        <summary class="text-ink2 text-small cursor-pointer">
          {{ mode.on_s && mode.every_s ? `${mode.on_s} s of every ${mode.every_s} s, ` : ''
          }}{{
            numberOf(mode.at_v)
              ? `read at ${plain(numberOf(mode.at_v)!)} V`
              : 'read at the old batteries’ volts'
          }},
          {{ mode.law ? reference.labelOf(reference.tables!.laws, mode.law) : AS_USUAL }}
        </summary>
        <div
          class="grid grid-cols-[repeat(auto-fit,minmax(min(320px,100%),1fr))] gap-y-6 gap-x-18 px-0 pt-6 pb-4"
        >
          <QuantityField :path="`gadget.modes.${index}.at_v`" unit="V" label="Read at" no-basis />
          <QuantityField :path="`gadget.modes.${index}.peak_a`" unit="mA" label="Peak at start" no-basis />
          <QuantityField
            :path="`gadget.modes.${index}.starts_per_day`"
            unit=""
            label="It starts, times a day"
            placeholder="seldom"
            no-basis
          />
          <QuantityField
            :path="`gadget.modes.${index}.peak_s`"
            unit="s"
            label="The peak lasts"
            placeholder="0.1"
            no-basis
          />
          <ChoiceField
            :path="`gadget.modes.${index}.job`"
            label="Its job"
            :empty="AS_USUAL"
            :choices="reference.tables!.jobs"
          />
          <QuantityField
            :path="`gadget.modes.${index}.least_share`"
            unit="%"
            label="Of that, enough is"
            placeholder="50"
            no-basis
          />
          <ChoiceField
            :path="`gadget.modes.${index}.law`"
            label="How its current changes with the volts"
            :empty="AS_USUAL"
            :choices="reference.tables!.laws"
          />
          <QuantityField
            :path="`gadget.modes.${index}.on_s`"
            unit="s"
            label="Pulses: on for"
            placeholder="steady"
            no-basis
          />
          <QuantityField :path="`gadget.modes.${index}.every_s`" unit="s" label="of every" no-basis />
          <LawReadings v-if="unfolded.has(mode.id!)" :index="index" />
          <p v-if="conversion.refusalAt(`gadget.modes.${index}`)" class="error-line" role="alert">
            {{ conversion.refusalAt(`gadget.modes.${index}`) }}
          </p>
        </div>
      </details>
    </div>
    <p v-if="conversion.refusalAt('gadget.modes')" class="error-line" role="alert">
      {{ conversion.refusalAt('gadget.modes') }}
    </p>
    <div
      class="mode off grid grid-cols-[minmax(60px,1fr)_156px_132px_24px] items-start gap-y-0 gap-x-10 px-0 py-5 border-b border-line narrow:grid-cols-[1fr_44px]"
    >
      <span class="name">off</span>
      <QuantityField path="gadget.off_current_a" unit="μA" label="current when off" bare />
      <button
        type="button"
        class="bare px-0 py-4 text-copper text-left font-semibold narrow:col-span-full"
        @click="add"
      >
        + mode
      </button>
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
input.name:hover,
input.name:focus {
  border-color: var(--line2);
}
.off :deep(.choice) {
  grid-column: 1 / -1;
  margin-top: 4px;
}
@media (width <= 860px) {
  .mode .quantity {
    grid-column: 1;
  }
}
</style>
