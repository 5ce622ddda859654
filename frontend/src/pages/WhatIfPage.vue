<script setup lang="ts">
/** What if one thing goes wrong: every single fault on the hook-up itself, what it reaches, and what stops it. */
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { api, sentenceOf, type SingleFault, type WhatIf } from '@/api/client'
import { useNewest } from '@/composables/useNewest'
import HookUpDrawing from '@/drawings/HookUpDrawing.vue'
import LevelMark from '@/kit/LevelMark.vue'
import PageFrame from '@/kit/PageFrame.vue'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const props = defineProps<{ id: number; build: number }>()
const conversion = useConversion()
const router = useRouter()

const picked = ref('')
const situation = ref('')
/** What was touched on the drawing: only its faults are listed then. */
const about = ref<string[]>([])
const study = ref<WhatIf>()
const remedies = ref<WhatIf['remedies']>()
const problem = ref('')
const late = ref(false)
const newest = useNewest()
const newestRemedies = useNewest()

watch(
  () => props.id,
  async (id) => {
    if (conversion.stored?.id !== id && !(await conversion.open(id))) return void router.replace('/')
    conversion.choose(props.build)
    document.title = t('What if · {name}', { name: conversion.document?.gadget.name ?? '' })
  },
  { immediate: true },
)
const ask = (tries: boolean) =>
  api.POST('/api/questions/what-if', {
    body: { ...conversion.question(), picked: picked.value, tries_remedies: tries },
  })
watch(
  [picked, () => conversion.assessment],
  async ([, now], [, before]) => {
    if (!conversion.assessment) return
    late.value = !!study.value
    const heard = await newest(ask(false))
    if (!heard) return
    study.value = heard.data
    problem.value = heard.error ? sentenceOf(heard.error) : ''
    late.value = false
    if (now === before && remedies.value) return
    const helped = await newestRemedies(ask(true))
    remedies.value = helped?.data?.remedies ?? remedies.value
  },
  { immediate: true },
)

const fault = computed(() => study.value?.faults.find((one) => one.key === picked.value))
const shown = computed(
  () => study.value?.circuits.find((one) => one.situation === situation.value) ?? study.value?.circuits[0],
)
const flows = computed(
  () =>
    new Map(
      shown.value?.wires.map((wire) => [
        `${wire.start} ${wire.end}`,
        { text: wire.flows ? wire.amps.text : '', share: wire.share, over: wire.over },
      ]),
    ),
)
const voltages = computed(() => new Map(shown.value?.pads.map((one) => [one.pad, one.volts.text])))

watch(picked, () => (situation.value = fault.value?.seen_when ?? ''))

const bridge = computed(() => {
  const [start, end] = fault.value?.pads ?? []
  const flow = shown.value?.bridge
  return flow && start && end ? { start, end, text: flow.text } : undefined
})

const touches = (one: SingleFault) =>
  !about.value.length || about.value.every((pad) => one.pads.includes(pad))
const groups = computed(() =>
  (study.value?.groups ?? [])
    .map((group) => ({
      ...group,
      faults: study.value!.faults.filter((one) => one.gravity === group.gravity && touches(one)),
    }))
    .filter((group) => group.faults.length),
)
/** One pad, then another: what is between them. The same again: nothing. */
function touch(pads: string[], together = false): void {
  const same = pads.every((pad) => about.value.includes(pad))
  about.value = same ? [] : together && about.value.length === 1 ? [...about.value, ...pads] : pads
  const found = study.value?.faults.filter(touches) ?? []
  if (about.value.length > 1 && found.length) picked.value = found[0]!.key
}
const padsOf = (key: string) =>
  study.value?.drawing.parts.find((part) => part.key === key)?.pads.map((pad) => pad.name) ?? []
function touchPart(key: string): void {
  about.value = []
  const own = new Set(padsOf(key))
  const found = study.value?.faults.find(
    (one) => one.pads.length === own.size && one.pads.every((p) => own.has(p)),
  )
  if (found) picked.value = found.key
}
async function take(edits: WhatIf['remedies'][number]['remedy']['edits']): Promise<void> {
  await conversion.applyEdits(edits)
}
</script>

<template>
  <PageFrame
    :title="study?.headline ?? 'What if one thing goes wrong?'"
    :back="conversion.document?.gadget.name"
    :to="`/conversion/${id}/wire`"
    :width="1240"
  >
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <p v-else-if="!study" class="quiet" role="status">Every joint, pad and part is failed in turn …</p>
    <div v-if="study" class="what-if" :class="{ late }">
      <section aria-label="The circuit with this fault">
        <div class="situations" role="group" aria-label="When">
          <button
            v-for="one in study.situations"
            :key="one.key"
            type="button"
            :aria-pressed="one.key === shown?.situation"
            @click="situation = one.key"
          >
            {{ one.label }}
          </button>
        </div>
        <HookUpDrawing
          :drawing="study.drawing"
          trace=""
          :flows="flows"
          :voltages="voltages"
          :picked="about[0]"
          :accused="fault?.pads"
          :bridge="bridge"
          @pick="touch([$event], true)"
          @wire="(start, end) => touch([start, end])"
          @part="touchPart"
        />
        <p class="m-0 mt-6 quiet text-small">
          Volts against the cell's minus, once everything has opened that will. Touch a wire, a part, or two
          pads to see them fail.
        </p>
        <article v-if="fault" class="told" aria-label="This fault">
          <h2 class="m-0 flex items-baseline gap-8">
            <LevelMark :level="study.groups.find((one) => one.gravity === fault!.gravity)?.level ?? 'note'" />
            {{ fault.title }}
          </h2>
          <p class="m-0 mt-4">{{ fault.reaches.join(' ') || 'Nothing comes of it.' }}</p>
          <dl>
            <dt>What stops it</dt>
            <dd>{{ fault.stopped_by }}</dd>
            <dt>How it shows</dt>
            <dd>{{ fault.shows }}</dd>
            <dt>How it comes about</dt>
            <dd>{{ fault.why }}</dd>
          </dl>
          <p v-if="shown && !shown.settled" class="m-0">It comes to no rest here: it starts and stops.</p>
          <button type="button" class="bare link-button" @click="picked = ''">As it should be</button>
        </article>
        <p v-else class="told">Nothing has failed: these are its volts and currents as it should be.</p>
        <ul v-if="remedies?.length" class="m-0 p-0 list-none" aria-label="What would help">
          <li v-for="one in remedies" :key="one.remedy.label" class="remedy">
            <ElButton size="small" @click="take(one.remedy.edits)">{{ one.remedy.label }}</ElButton>
            <span class="quiet">{{ one.says }}</span>
          </li>
        </ul>
      </section>
      <aside aria-label="Single faults">
        <p v-if="about.length" class="m-0">
          At {{ about.map((pad) => pad.replace('.', ' ')).join(' and ') }}.
          <button type="button" class="bare link-button" @click="about = []">All of them</button>
        </p>
        <p v-if="about.length && !groups.length" class="quiet">No single fault is there.</p>
        <template v-for="group in groups" :key="group.gravity">
          <h2 class="group">
            <LevelMark :level="group.level" :size="12" /> {{ group.label }}
            <span class="quiet">{{ group.faults.length }}</span>
          </h2>
          <ul class="m-0 p-0 list-none">
            <li v-for="one in group.faults" :key="one.key">
              <button
                type="button"
                class="fault"
                :aria-pressed="one.key === picked"
                @click="picked = one.key === picked ? '' : one.key"
              >
                {{ one.title }} <span class="quiet">{{ one.chance }}</span>
              </button>
            </li>
          </ul>
        </template>
      </aside>
    </div>
  </PageFrame>
</template>

<style scoped>
.what-if {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  gap: 28px;
}
.late {
  opacity: 0.7;
}
.situations {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 6px 0 10px;
}
.situations button {
  padding: 4px 0;
  border: 0;
  border-bottom: 2px solid transparent;
  background: none;
  color: var(--ink2);
  cursor: pointer;
}
.situations button[aria-pressed='true'] {
  border-color: var(--copper);
  color: var(--ink);
  font-weight: 600;
}
.told {
  margin: 14px 0 12px;
  padding: 10px 0 10px 14px;
  border-left: 3px solid var(--copper);
}
.told h2 {
  font-size: 17px;
}
dl {
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
  gap: 2px 14px;
  margin: 8px 0;
}
dt {
  color: var(--ink2);
}
dd {
  margin: 0;
}
.remedy {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  padding: 3px 0;
}
aside {
  padding-left: 20px;
  border-left: 1px solid var(--line);
}
.group {
  display: flex;
  align-items: baseline;
  gap: 8px;
  margin: 14px 0 4px;
  font-size: 15px;
}
.fault {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  width: 100%;
  min-height: 32px;
  padding: 5px 8px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.fault:hover {
  background: var(--sunk);
}
.fault[aria-pressed='true'] {
  background: var(--copperwash);
}
@media (max-width: 860px) {
  .what-if {
    grid-template-columns: minmax(0, 1fr);
    gap: 10px;
  }
  aside {
    padding: 0;
    border: 0;
  }
  .fault,
  .situations button {
    min-height: 44px;
  }
}
</style>
