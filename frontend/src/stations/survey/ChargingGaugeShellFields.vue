<script setup lang="ts">
/** What else a survey looks for: an old way in for charge, a battery gauge, the shell's outside. */
import { computed } from 'vue'

import CheckField from '@/kit/CheckField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NameField from '@/kit/NameField.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { plain } from '@/format'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const conversion = useConversion()
const reference = useReference()
const gadget = computed(() => conversion.document!.gadget)
const gauge = computed(() => conversion.assessment?.run?.gauge)
const outer = computed(() => gadget.value.shell?.outer_mm)
const SIDES = [t('Outer length'), t('Outer width'), t('Outer height')]

function tellGauge(has: boolean): void {
  conversion.edit('gadget.gauge', has ? { warn_v: null, stop_v: null } : null)
}

function tellSecond(has: boolean): void {
  conversion.edit('gadget.second_supply', has ? { battery: 'CR2032', keeps: t('its memory or clock') } : null)
}

function tellOuter(): void {
  conversion.edit('gadget.shell.outer_mm', reference.tables!.usual_outer_mm)
}
</script>

<template>
  <div class="others grid grid-cols-[repeat(auto-fit,minmax(250px,1fr))] gap-y-8 gap-x-32 mt-14">
    <section class="flex flex-col items-stretch gap-6" aria-label="Old charge path">
      <h2 class="mx-0 mt-0 mb-2">What charges it today</h2>
      <ChoiceField
        path="gadget.existing_charging.kind"
        label="At the terminals"
        :choices="reference.tables!.existing_charging_kinds"
      />
      <ChoiceField
        v-if="gadget.existing_charging?.kind !== 'none'"
        path="gadget.existing_charging.treatment"
        label="What becomes of it"
        :choices="reference.tables!.treatments"
      />
      <template v-if="gadget.existing_charging?.kind !== 'none'">
        <QuantityField
          v-if="gadget.existing_charging?.kind !== 'lithium_charger'"
          path="gadget.existing_charging.adapter_v"
          unit="V"
          label="Its adapter, nothing on it"
          placeholder="unknown"
          empty="inferred"
        />
        <QuantityField
          path="gadget.existing_charging.current_a"
          unit="A"
          label="It charged with"
          placeholder="unknown"
          empty="inferred"
        />
      </template>
    </section>
    <section class="flex flex-col items-stretch gap-6" aria-label="Battery gauge">
      <h2 class="mx-0 mt-0 mb-2">Its own battery gauge</h2>
      <ElCheckbox :model-value="!!gadget.gauge" @update:model-value="tellGauge($event === true)"
        >it warns of empty batteries</ElCheckbox
      >
      <template v-if="gadget.gauge">
        <QuantityField
          path="gadget.gauge.warn_v"
          unit="V"
          label="Warns at"
          empty="inferred"
          :placeholder="gauge ? plain(gauge.warn_v.value, 3) : 'unknown'"
        />
        <QuantityField
          path="gadget.gauge.stop_v"
          unit="V"
          label="Stops at"
          empty="inferred"
          :placeholder="gauge ? plain(gauge.stop_v.value, 3) : 'unknown'"
        />
        <p v-if="conversion.refusalAt('gadget.gauge')" class="error-line" role="alert">
          {{ conversion.refusalAt('gadget.gauge') }}
        </p>
        <p v-if="gauge" class="quiet small">
          {{ gauge.left_at_warning.text }} of the charge left at the warning,
          {{ gauge.left_at_stop.text }} unused at its stop.
        </p>
      </template>
    </section>
    <section class="flex flex-col items-stretch gap-6" aria-label="Second battery">
      <h2 class="mx-0 mt-0 mb-2">A battery that stays</h2>
      <ElCheckbox :model-value="!!gadget.second_supply" @update:model-value="tellSecond($event === true)"
        >a second one keeps a clock or a memory</ElCheckbox
      >
      <template v-if="gadget.second_supply">
        <label class="flex items-center gap-8"
          >It is a <NameField path="gadget.second_supply.battery" label="Second battery" :most="20"
        /></label>
        <label class="flex items-center gap-8"
          >and keeps <NameField path="gadget.second_supply.keeps" label="What it keeps"
        /></label>
      </template>
    </section>
    <section class="flex flex-col items-stretch gap-6" aria-label="Way to its board">
      <h2 class="mx-0 mt-0 mb-2">From its terminals to its board</h2>
      <QuantityField path="gadget.wires_awg" unit="AWG" label="Thinnest wire" placeholder="unknown" />
      <QuantityField
        path="gadget.capacitance_f"
        unit="μF"
        label="A capacitor across them"
        placeholder="none"
      />
    </section>
    <section class="flex flex-col items-stretch gap-6" aria-label="Shell">
      <h2 class="mx-0 mt-0 mb-2">Its outside</h2>
      <template v-if="outer">
        <QuantityField
          v-for="(side, index) in SIDES"
          :key="side"
          :path="`gadget.shell.outer_mm.${index}`"
          unit="mm"
          :label="side"
        />
      </template>
      <button v-else type="button" class="bare text-copper font-semibold" @click="tellOuter">
        + outer size, it lets heat out
      </button>
      <CheckField path="gadget.shell.closed" label="closed, no vents" />
      <CheckField path="gadget.shell.metal" label="metal case" />
      <QuantityField path="gadget.shell.room_c" unit="°C" label="Charged in a room of" />
      <QuantityField path="gadget.shell.use_c" unit="°C" label="Used at" placeholder="same" />
      <QuantityField path="gadget.shell.store_c" unit="°C" label="Stored at" placeholder="as used" />
    </section>
  </div>
</template>

<style scoped>
.others :deep(.choice) {
  grid-template-columns: minmax(0, 1fr) 150px;
}
</style>
