<script setup lang="ts">
/** Causes tried against a log that differs from its prediction: how well each fits, what would decide, what it does. */
import { ref, watch } from 'vue'

import { api, sentenceOf, type Explained, type LogQuestion, type Prediction } from '@/api/client'
import { useAdoption } from '@/stations/prove/useAdoption'
import { useNewest } from '@/composables/useNewest'
import LevelMark from '@/kit/LevelMark.vue'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const props = defineProps<{
  logId: number
  from: string
  mends: LogQuestion['mends']
  prediction: Prediction | null
}>()
const emit = defineEmits<{ adopted: [] }>()
const conversion = useConversion()

const told = ref<Explained>()
const problem = ref('')
const isAsking = ref(false)
const newest = useNewest()
const FITS = { well: 'pass', roughly: 'note', badly: 'caution' } as const
const WORDS = { well: t('fits well'), roughly: t('fits roughly'), badly: t('fits badly') } as const

// Of another log, or of a plan that was changed, it says nothing.
watch(
  [() => props.logId, () => props.mends?.join(), () => conversion.stored?.revision],
  () => (told.value = undefined),
)

async function ask(): Promise<void> {
  isAsking.value = true
  const body = { ...conversion.question(), log_id: props.logId, places: null, mends: props.mends }
  const heard = await newest(api.POST('/api/questions/log-explained', { body }))
  isAsking.value = false
  if (!heard) return
  problem.value = heard.error ? sentenceOf(heard.error) : ''
  told.value = heard.data
}
const adopt = useAdoption(props)
async function take(one: Explained['explanations'][number]): Promise<void> {
  await adopt(one.cause, one.edits)
  told.value = undefined
  emit('adopted')
}
</script>

<template>
  <section aria-label="What could explain it" class="mt-8">
    <ElButton v-if="!told" size="small" :loading="isAsking" @click="ask">What could explain it?</ElButton>
    <template v-else>
      <h2>What could explain it</h2>
      <p class="quiet small">
        As planned it {{ WORDS[told.as_planned] }}: {{ told.left_v.text }} apart in the mean. Each cause below
        was tried with the figure that fits best.
      </p>
      <p v-if="!told.explanations.length">Nothing that was tried fits better than the plan does.</p>
      <ol class="m-0 p-0 list-none">
        <li v-for="one in told.explanations" :key="one.cause" class="px-0 py-6 border-b border-line">
          <LevelMark :level="FITS[one.fits]" :size="13" /> <b>{{ one.cause }}</b>
          <small class="block">{{ WORDS[one.fits] }}: {{ one.left_v.text }} apart. {{ one.then }}</small>
          <small class="block quiet">To decide: {{ one.decides }}</small>
          <button
            v-if="one.edits.length"
            type="button"
            class="bare text-copper font-semibold"
            @click="take(one)"
          >
            Take it over
          </button>
        </li>
      </ol>
    </template>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
  </section>
</template>
