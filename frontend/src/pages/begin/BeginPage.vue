<script setup lang="ts">
/** A new conversion by pictures: six questions, to each of which "I do not know" is an answer that says its price. */
import { computed, onMounted, reactive, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { Beginning, Guide, Problem } from '@/api/client'
import { api } from '@/api/client'
import BatterySizes from '@/drawings/BatterySizes.vue'
import LoadTimeline from '@/drawings/LoadTimeline.vue'
import GuidePicture from '@/drawings/GuidePicture.vue'
import PageFrame from '@/kit/PageFrame.vue'
import PicturedChoice from '@/kit/PicturedChoice.vue'
import { useOwnTools } from '@/composables/useOwnTools'
import { useLoadLine } from '@/composables/useLoadLine'
import { useProjects } from '@/stores/projects'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const MOST_IN_SERIES = 12

const route = useRoute()
const router = useRouter()
const projects = useProjects()
const reference = useReference()

/** Nothing is answered until it is: undefined; "" is "I do not know". */
const answers = reactive({
  name: String(route.query.name ?? ''),
  purpose: undefined as string | undefined,
  battery: '',
  series: 1,
  thing: undefined as string | undefined,
  charging: undefined as string | undefined,
  load: '',
  loadUnknown: false,
})
const own = useOwnTools()
const problem = ref<Problem>()
const guide = ref<Guide>()
const busy = ref(false)
/** The line is read into a gadget of no modes. */
const { reading, refusal, readSoon } = useLoadLine(() => ({ gadget: { name: 'new' } }))

onMounted(async () => {
  document.title = t('New conversion · Pocket Spark')
  guide.value = (await api.GET('/api/guides')).data?.find(({ key }) => key === 'current')
})

/** As people call it: AA and not LR6. */
const battery = computed(
  () => reference.tables?.batteries.find(({ iec }) => iec === answers.battery)?.common ?? answers.battery,
)
const missing = computed(() =>
  [
    !answers.name.trim() && t('its name'),
    answers.purpose === undefined && t('whom it could hurt'),
    !answers.battery && t('its batteries'),
    answers.thing === undefined && t('what it is'),
    answers.charging === undefined && t('what charges it now'),
    !answers.load.trim() && !answers.loadUnknown && t('what it draws'),
  ].filter(Boolean),
)
const refusalAt = (field: string) =>
  problem.value?.errors?.find((refused) => refused.field.split('.').pop() === field)?.sentence

const loadRefusal = computed(() => refusal.value || refusalAt('load'))

async function show(): Promise<void> {
  const { purpose } = answers
  if (!purpose || !answers.battery) return // the button waits for both
  busy.value = true
  const body = {
    name: answers.name,
    purpose,
    battery: answers.battery,
    series: answers.series,
    thing: answers.thing || null,
    charging: answers.charging || null,
    load: answers.loadUnknown ? null : answers.load,
    ...own.ofABeginning(),
  }
  const { made, refused } = await projects.begin(body as Beginning)
  busy.value = false
  problem.value = refused
  if (made) await router.push(`/conversion/${made.id}/proposals`)
}
</script>

<template>
  <PageFrame title="New conversion" back="the shelf" to="/" :width="980">
    <form v-if="reference.tables" class="begin" @submit.prevent="show">
      <label class="name"
        ><h2 class="mx-0 mt-14 mb-6 text-ink text-large">What do you call it?</h2>
        <input
          v-model="answers.name"
          class="text-input w-[min(100%,_320px)] mb-18"
          maxlength="120"
          placeholder="rain gauge"
          autocomplete="off"
      /></label>

      <fieldset class="question">
        <legend>Whom could it hurt if it failed?</legend>
        <button
          v-for="choice in reference.tables.purposes"
          :key="choice.value"
          type="button"
          class="answer-button"
          :title="choice.detail"
          :aria-pressed="answers.purpose === choice.value"
          @click="answers.purpose = choice.value"
        >
          {{ choice.label }}
        </button>
      </fieldset>

      <fieldset class="question">
        <legend>Which batteries does it take, and how many?</legend>
        <BatterySizes
          :chosen="answers.battery"
          :count="answers.series"
          @pick="
            answers.battery === $event.iec
              ? (answers.series = (answers.series % MOST_IN_SERIES) + 1)
              : ((answers.battery = $event.iec), (answers.series = 1))
          "
        />
        <div v-if="answers.battery" class="flex flex-wrap items-center gap-10">
          <ElInputNumber
            v-model="answers.series"
            :min="1"
            :max="MOST_IN_SERIES"
            size="small"
            aria-label="How many, one behind the other"
            class="w-84!"
          />
          <p class="m-0" role="status">
            {{ answers.series }} x {{ battery }}, one behind the other. Press it again for one more.
          </p>
        </div>
      </fieldset>

      <PicturedChoice
        v-model="answers.thing"
        asks="What is it?"
        :choices="reference.tables.things"
        :unknown="reference.tables.unknown.thing!"
      />
      <PicturedChoice
        v-model="answers.charging"
        asks="Does anything charge it now?"
        :choices="reference.tables.existing_charging_kinds"
        :unknown="reference.tables.unknown.charging!"
      />

      <fieldset class="question current">
        <legend>What does it draw, and when?</legend>
        <div class="flex-[1_1_300px]">
          <label class="grid gap-4 mb-8"
            >What it draws, and when
            <input
              v-model="answers.load"
              class="text-input w-[min(100%,_420px)] font-mono"
              placeholder="62 mA, 3 h each evening"
              maxlength="400"
              :disabled="answers.loadUnknown"
              :aria-invalid="!!loadRefusal"
              @input="void readSoon(answers.load)"
            />
          </label>
          <button
            type="button"
            class="answer-button"
            :aria-pressed="answers.loadUnknown"
            @click="answers.loadUnknown = !answers.loadUnknown"
          >
            I do not know
          </button>
          <p v-if="answers.loadUnknown" class="quiet">{{ reference.tables.unknown.load }}</p>
          <p v-else-if="loadRefusal" class="error-line" role="alert">{{ loadRefusal }}</p>
          <div v-else-if="reading" class="grid gap-4 mt-8 max-w-420">
            <p v-if="reading.taken" class="quiet m-0">{{ reading.taken }}</p>
            <LoadTimeline :day="reading.day" />
          </div>
          <p v-else class="quiet">
            As it is lived: “18 mA for 2 s every minute, 60 μA asleep”, “900 mA for 1 s, 20 times a day”.
          </p>
        </div>
        <figure v-if="guide" class="flex-[1_1_320px] m-0">
          <GuidePicture :picture="guide.picture" label="The meter between battery and gadget" />
          <figcaption>
            <RouterLink to="/measuring#current" class="tap" target="_blank">Step by step</RouterLink>
          </figcaption>
        </figure>
      </fieldset>

      <p v-if="problem && !refusalAt('load')" class="error-line" role="alert">
        {{ problem.detail }}
      </p>
      <footer class="flex flex-wrap items-center gap-14 pt-14 border-t border-line2">
        <ElButton
          type="primary"
          native-type="submit"
          size="large"
          :disabled="!!missing.length"
          :loading="busy"
          >Show me builds</ElButton
        >
        <span v-if="missing.length" class="quiet">Still to say: {{ missing.join(', ') }}.</span>
        <span v-else class="quiet">Everything can be said better later, in the survey.</span>
      </footer>
    </form>
  </PageFrame>
</template>
