<script setup lang="ts">
/**
 * One step as large as the screen: read from where the iron is, done by a tap anywhere or one key, and said aloud where
 * that is asked for. The screen stays awake meanwhile.
 */
import { useLocalStorage, useSpeechSynthesis, useWakeLock } from '@vueuse/core'
import { computed, nextTick, onMounted, onUnmounted, useTemplateRef, watch } from 'vue'

import type { Procedure } from '@/api/client'
import { unbroken } from '@/format'
import { t } from '@/words'

const props = defineProps<{
  step: Procedure['steps'][number]
  number: number
  count: number
  problem: string
}>()
const reading = defineModel<string>('reading', { required: true })
const emit = defineEmits<{ done: []; back: []; leave: [] }>()

const dialog = useTemplateRef<HTMLDialogElement>('dialog')
const field = useTemplateRef<HTMLInputElement>('field')

const awake = useWakeLock()
onMounted(() => {
  dialog.value!.showModal()
  toWork()
  void awake.request('screen').catch(() => undefined) // not given where the battery is low: nothing else changes
})
onUnmounted(() => void awake.release())

/** What the step waits for, as it is read and as it is said. */
const waitsFor = computed(() =>
  props.step.hold
    ? t('{quantity}, {limits}', { quantity: props.step.hold.quantity, limits: props.step.hold.limits })
    : '',
)
const wrong = computed(() => props.problem || (props.step.state === 'held' ? props.step.says : ''))

const aloud = useLocalStorage('pocket-spark-aloud', false)
const said = computed(() => [props.step.title, waitsFor.value, wrong.value].filter(Boolean).join('. '))
const voice = useSpeechSynthesis(said, { lang: document.documentElement.lang })
watch(
  [said, aloud],
  () => {
    if (!voice.isSupported.value) return
    voice.stop()
    if (aloud.value) voice.speak()
  },
  { immediate: true },
)
onUnmounted(() => voice.isSupported.value && voice.stop())

// A second tap of the same hand is none on the next step.
const TWICE_MS = 600
let since = Date.now()
watch(
  () => props.step.key,
  () => {
    since = Date.now()
    void nextTick(toWork)
  },
)
/** The keys go to the field of a checkpoint, else to the whole page. */
const toWork = () => (field.value ?? dialog.value)?.focus()
function done(): void {
  if (props.step.state === 'locked' || Date.now() - since < TWICE_MS) return
  if (props.step.hold && !reading.value) field.value?.focus()
  else emit('done')
}

const KEYS: Record<string, () => void> = { ' ': done, Enter: done, b: () => emit('back') }
function pressed(event: KeyboardEvent): void {
  // Nothing that is pressed here is for the page behind it; a button's own keys are its own.
  event.stopPropagation()
  const inField = event.target === field.value
  const isOther = !inField && (event.target as Element).closest('button, label')
  if (isOther || (inField && event.key !== 'Enter')) return
  const action = KEYS[event.key]
  if (!action) return
  event.preventDefault()
  action()
}
</script>

<template>
  <dialog
    ref="dialog"
    class="bench flex flex-col gap-16 px-24 py-16 bg-paper text-ink"
    tabindex="-1"
    :aria-label="t('Step {number} of {count}, at the bench', { number, count })"
    @keydown="pressed"
    @cancel.prevent="emit('leave')"
    @click="done"
  >
    <header class="flex flex-wrap items-center gap-x-18 gap-y-4" @click.stop>
      <b class="mr-auto text-large text-ink2">Step {{ number }} of {{ count }}</b>
      <label v-if="voice.isSupported.value" class="tap flex items-center gap-8 text-large">
        <input v-model="aloud" type="checkbox" class="w-20 h-20 accent-copper" />
        Say it aloud
      </label>
      <button type="button" class="bare min-h-44 text-large text-copper font-semibold" @click="emit('back')">
        Back
      </button>
      <button type="button" class="bare min-h-44 text-large text-copper font-semibold" @click="emit('leave')">
        Leave
      </button>
    </header>
    <div class="what" aria-live="polite">
      <h2 class="title">{{ unbroken(step.title) }}</h2>
      <p v-if="!step.hold" class="line mt-12">{{ step.why }}</p>
      <p v-if="step.caution" class="line my-12 px-12 py-6 border-l-3 border-caution bg-sheet">
        {{ step.caution }}
      </p>
      <ol v-if="step.how?.length && !step.hold" class="line m-0 pl-32">
        <li v-for="one in step.how" :key="one" class="py-4">{{ one }}</li>
      </ol>
      <p v-if="step.tools.length && !step.hold" class="line text-ink2 mt-12">
        Tools: {{ step.tools.join(', ') }}
      </p>
      <template v-if="step.hold">
        <p class="line mt-12">{{ step.hold.quantity }}: {{ step.hold.probes }}</p>
        <p class="figure">{{ step.hold.limits }}</p>
        <label class="line flex flex-wrap items-center gap-12" @click.stop>
          reads
          <input
            ref="field"
            v-model="reading"
            class="field px-16 framed bg-sheet text-ink font-mono"
            inputmode="decimal"
            autofocus
            :aria-label="`${step.hold.quantity}, ${step.hold.unit_sign}`"
          />
          {{ step.hold.unit_sign }}
        </label>
        <p v-if="wrong" class="error-line line" role="alert">{{ wrong }}</p>
      </template>
    </div>
    <p class="m-0 text-large text-ink2">
      <template v-if="step.state === 'locked'">Something stops this build: leave, and see what.</template>
      <template v-else-if="step.hold">Type what the meter reads, then Enter or a tap anywhere.</template>
      <template v-else>Done? Tap anywhere, or press the space bar. b goes back.</template>
    </p>
  </dialog>
</template>

<style scoped>
.bench {
  inset: 0;
  width: 100vw;
  max-width: none;
  height: 100dvh;
  max-height: none;
  margin: 0;
  border: 0;
  cursor: pointer;
}
.bench:focus {
  outline: none;
}
.what {
  display: flex;
  flex: 1;
  flex-direction: column;
  justify-content: safe center;
  min-height: 0;
  max-width: 1000px;
  overflow-y: auto;
}
.title {
  margin: 0;
  color: var(--ink);
  font-size: clamp(28px, 5.2vw, 60px);
  line-height: 1.15;
}
.line {
  font-size: clamp(18px, 2.2vw, 26px);
  line-height: 1.35;
}
.field {
  width: min(260px, 55vw);
  height: 72px;
  font-size: 34px;
}
.figure {
  margin: 12px 0 18px;
  color: var(--copper);
  font-size: clamp(34px, 7vw, 84px);
  font-weight: 700;
  line-height: 1.1;
}
</style>
