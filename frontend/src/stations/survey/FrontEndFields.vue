<script setup lang="ts">
/** What the batteries feed, and the figures that count for that kind. */
import { computed } from 'vue'

import CheckField from '@/kit/CheckField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { plain } from '@/format'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const conversion = useConversion()
const reference = useReference()
const survey = computed(() => conversion.assessment?.survey)

interface Field {
  name: string
  unit: string
  label: string
  placeholder: string
}

const FIELDS: Record<string, Field[]> = {
  led_resistor: [{ name: 'led_v', unit: 'V', label: t('Forward volts of the LEDs'), placeholder: t('led') }],
  lamp: [],
  motor: [{ name: 'winding_ohm', unit: 'Ω', label: t('Winding resistance'), placeholder: t('unknown') }],
  heater: [],
  logic: [{ name: 'logic_max_v', unit: 'V', label: t('Lowest absolute maximum'), placeholder: '3.6' }],
  regulator: [
    { name: 'regulated_v', unit: 'V', label: t('Its regulator gives'), placeholder: t('unknown') },
    { name: 'input_max_v', unit: 'V', label: t('and takes at most'), placeholder: t('unknown') },
  ],
  converter: [
    { name: 'input_min_v', unit: 'V', label: t('Its converter takes from'), placeholder: t('unknown') },
    { name: 'input_max_v', unit: 'V', label: t('to at most'), placeholder: t('unknown') },
  ],
}
const fields = computed(() => FIELDS[conversion.document!.gadget.front_end ?? 'regulator'] ?? [])
const usual = (field: Field) =>
  field.placeholder === 'led' ? survey.value && plain(survey.value.led_v.value, 3) : field.placeholder
</script>

<template>
  <ChoiceField path="gadget.front_end" label="The batteries feed" :choices="reference.tables!.front_ends" />
  <ChoiceField path="gadget.sound" label="Its sound" empty="not said" :choices="reference.tables!.sounds" />
  <ChoiceField
    v-if="conversion.document!.gadget.sound === 'radio'"
    path="gadget.receives"
    label="It receives"
    empty="not said"
    :choices="reference.tables!.bands"
  />
  <QuantityField
    path="gadget.behind.design_v"
    unit="V"
    label="Made for"
    empty="inferred"
    :placeholder="survey && plain(survey.design_v.value, 3)"
  />
  <QuantityField
    v-for="field in fields"
    :key="field.name"
    :path="`gadget.behind.${field.name}`"
    :unit="field.unit"
    :label="field.label"
    empty="default"
    :placeholder="usual(field)"
  />
  <CheckField
    v-if="conversion.document!.gadget.front_end === 'motor'"
    path="gadget.behind.kick_diode"
    label="a diode lies across the motor"
  />
</template>
