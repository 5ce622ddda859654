<script setup lang="ts">
/** How this device writes and looks: units and colours. What is kept, computed and exported does not change by it. */
import { onMounted } from 'vue'

import { useTheme } from '@/composables/useTheme'
import { useUnits } from '@/composables/useUnits'
import PageFrame from '@/kit/PageFrame.vue'

const { length, temperature } = useUnits()
const { dark } = useTheme()

onMounted(() => {
  document.title = 'Settings · Pocket Spark'
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
        <dt id="lengths">Lengths</dt>
        <dd class="narrow:mx-0 narrow:mt-4">
          <ElRadioGroup v-model="length" aria-labelledby="lengths">
            <ElRadioButton value="mm">millimetres</ElRadioButton>
            <ElRadioButton value="in">inches</ElRadioButton>
          </ElRadioGroup>
          <small class="quiet block mt-4">
            {{ length === 'in' ? '2 7/16 in where it is one of a ruler’s marks, else 2.441 in' : '61.9 mm' }}.
            Wires are named in AWG and in mm² both.
          </small>
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
        <dt id="colours">Colours</dt>
        <dd class="narrow:mx-0 narrow:mt-4">
          <ElRadioGroup v-model="dark" aria-labelledby="colours">
            <ElRadioButton :value="false">light</ElRadioButton>
            <ElRadioButton :value="true">dark</ElRadioButton>
          </ElRadioGroup>
        </dd>
      </div>
    </dl>
  </PageFrame>
</template>
