<script setup lang="ts">
/** One question whose answers are drawn, with "I do not know" as the last of them: what that costs is said under it. */
import type { Choice } from '@/api/client'
import ThingGlyph from '@/pages/begin/ThingGlyph.vue'
import { t } from '@/words'

defineProps<{ asks: string; choices: Choice[]; unknown: string }>()
/** undefined: not answered yet; "": not known. */
const answer = defineModel<string>()
const UNKNOWN: Choice = { value: '', label: t('I do not know'), detail: '', asks: [] }
</script>

<template>
  <fieldset class="question">
    <legend>{{ asks }}</legend>
    <button
      v-for="choice in [...choices, UNKNOWN]"
      :key="choice.value"
      type="button"
      class="answer-button grid justify-items-center content-start w-112 px-6 py-8 leading-[1.25] text-center"
      :aria-pressed="answer === choice.value"
      @click="answer = choice.value"
    >
      <ThingGlyph :kind="choice.value || 'unknown'" />
      <b>{{ choice.label }}</b>
      <small class="text-ink2">{{ choice.detail }}</small>
    </button>
    <p v-if="answer === ''" class="quiet">{{ unknown }}</p>
  </fieldset>
</template>
