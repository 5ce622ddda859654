<script setup lang="ts">
/** How this device writes, prints and looks: units, paper and colours. What is kept, computed and exported does not change by it. */
import { computed, onMounted } from 'vue'

import { useOwnTools } from '@/composables/useOwnTools'
import { usePaper } from '@/composables/usePaper'
import { TEXT_SIZES, useTextSize } from '@/composables/useTextSize'
import { useTheme } from '@/composables/useTheme'
import { useUnits } from '@/composables/useUnits'
import { fixed, percent } from '@/format'
import PageFrame from '@/kit/PageFrame.vue'
import PickField from '@/kit/PickField.vue'
import { useReference } from '@/stores/reference'
import { language, languages, nameOf, pickLanguage, t } from '@/words'

const { length, temperature, decimals, lengthText } = useUnits()
const { dark } = useTheme()
const paper = usePaper()
const textSize = useTextSize()
const own = useOwnTools()
const reference = useReference()

const measuring = computed(() => {
  const { calipers = [], meters = [] } = reference.tables ?? {}
  return [
    {
      kind: 'calipers',
      title: t('Lengths are taken with'),
      chosen: own.calipers,
      tools: calipers.map(({ label, right_to }) => ({
        value: label,
        label: `${label}, ${lengthText(right_to)}`,
      })),
      says: t('A bay that you begin to measure is taken as right to so much.'),
    },
    {
      kind: 'meters',
      title: t('Volts and amperes with'),
      chosen: own.meter,
      tools: meters.map(({ label, right_to }) => ({ value: label, label: `${label}, ${percent(right_to)}` })),
      says: t('What a log teaches is told with what the meter may be off by; of conversions that you begin.'),
    },
  ]
})

onMounted(() => {
  document.title = t('Settings · Pocket Spark')
})
</script>

<template>
  <PageFrame title="Settings of this device" :width="620">
    <p class="quiet">
      How numbers are written here, on screen and on paper. They can be typed in any unit everywhere: “2 7/16
      in”, “62”, “77 F”, “1,5”. Measures in a saved file stay millimetres and degrees Celsius.
    </p>
    <dl class="ruled-list">
      <div class="narrow:block">
        <dt id="language">Language</dt>
        <dd class="narrow:mx-0 narrow:mt-4">
          <ElRadioGroup
            :model-value="language"
            aria-labelledby="language"
            @update:model-value="pickLanguage(String($event))"
          >
            <ElRadioButton v-for="code in languages" :key="code" :value="code" :lang="code">{{
              nameOf(code)
            }}</ElRadioButton>
          </ElRadioGroup>
          <small class="quiet block mt-4">On screen, on paper and in files that somebody reads.</small>
        </dd>
      </div>
      <div class="narrow:block">
        <dt id="lengths">Lengths</dt>
        <dd class="narrow:mx-0 narrow:mt-4">
          <ElRadioGroup v-model="length" aria-labelledby="lengths">
            <ElRadioButton value="mm">millimetres</ElRadioButton>
            <ElRadioButton value="in">inches</ElRadioButton>
          </ElRadioGroup>
          <small class="quiet block mt-4">
            {{
              length === 'in'
                ? `2 7/16 in where it is one of a ruler’s marks, else ${fixed(2.441, 3)} in`
                : `${fixed(61.9, 1)} mm`
            }}. Wires are named in AWG and in mm² both.
          </small>
        </dd>
      </div>
      <div class="narrow:block">
        <dt id="decimals">Decimals</dt>
        <dd class="narrow:mx-0 narrow:mt-4">
          <ElRadioGroup v-model="decimals" aria-labelledby="decimals">
            <ElRadioButton value="point">1.5</ElRadioButton>
            <ElRadioButton value="comma">1,5</ElRadioButton>
          </ElRadioGroup>
          <small class="quiet block mt-4"
            >Names stay as they are printed on parts, and files have a point.</small
          >
        </dd>
      </div>
      <div class="narrow:block">
        <dt id="temperatures">Temperatures</dt>
        <dd class="narrow:mx-0 narrow:mt-4">
          <ElRadioGroup v-model="temperature" aria-labelledby="temperatures">
            <ElRadioButton value="C">Celsius</ElRadioButton>
            <ElRadioButton value="F">Fahrenheit</ElRadioButton>
          </ElRadioGroup>
          <small class="quiet block mt-4">
            A cell is too warm at {{ temperature === 'F' ? '113 °F' : '45 °C' }}.
          </small>
        </dd>
      </div>
      <div class="narrow:block">
        <dt id="paper">Paper</dt>
        <dd class="narrow:mx-0 narrow:mt-4">
          <ElRadioGroup v-model="paper" aria-labelledby="paper">
            <ElRadioButton value="a4">A4</ElRadioButton>
            <ElRadioButton value="letter">Letter</ElRadioButton>
            <ElRadioButton value="both">both</ElRadioButton>
          </ElRadioGroup>
          <small class="quiet block mt-4">Which PDF files are offered.</small>
        </dd>
      </div>
      <div v-for="{ kind, title, chosen, tools, says } in measuring" :key="kind" class="narrow:block">
        <dt :id="kind">{{ title }}</dt>
        <dd class="narrow:mx-0 narrow:mt-4">
          <PickField
            v-model="chosen.value"
            class="w-full max-w-420"
            :label="title"
            :options="tools"
            empty="as usual"
          />
          <small class="quiet block mt-4">{{ says }}</small>
        </dd>
      </div>
      <div class="narrow:block">
        <dt><label for="own-currency">Prices are in</label></dt>
        <dd class="narrow:mx-0 narrow:mt-4">
          <input
            id="own-currency"
            v-model.trim="own.currency.value"
            class="w-76 h-28 px-8 py-0 framed bg-sheet text-ink text-body font-sans"
            maxlength="6"
            placeholder="EUR"
          />
          <small class="quiet block mt-4">Of conversions that you begin from now on.</small>
        </dd>
      </div>
      <div class="narrow:block">
        <dt id="text-size">Text</dt>
        <dd class="narrow:mx-0 narrow:mt-4">
          <ElRadioGroup v-model="textSize" aria-labelledby="text-size">
            <ElRadioButton v-for="size in TEXT_SIZES" :key="size" :value="size">{{ size }} %</ElRadioButton>
          </ElRadioGroup>
        </dd>
      </div>
      <div class="narrow:block">
        <dt id="colours">Colours</dt>
        <dd class="narrow:mx-0 narrow:mt-4">
          <ElRadioGroup v-model="dark" aria-labelledby="colours">
            <ElRadioButton :value="false">bright</ElRadioButton>
            <ElRadioButton :value="true">dark</ElRadioButton>
          </ElRadioGroup>
        </dd>
      </div>
    </dl>
  </PageFrame>
</template>
