<script setup lang="ts">
/** The header of an open conversion: its name, its builds, how it is saved, the way back and forth. One row, on a phone
 * too, where all but Undo is behind one button. */
import { computed } from 'vue'
import { useRouter } from 'vue-router'

import { useFieldPlace } from '@/pages/conversion/useFieldPlace'
import { useTypedText } from '@/composables/useTypedText'
import { useTheme } from '@/composables/useTheme'
import { clockTime } from '@/format'
import MoreActs from '@/kit/MoreActs.vue'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const emit = defineEmits<{ help: []; logbook: [] }>()
const conversion = useConversion()
const theme = useTheme()
const { toField } = useFieldPlace()
const name = useTypedText('gadget.name')

const builds = computed(() => conversion.document?.builds ?? [])

const saved = computed(() => {
  if (conversion.unsaved) return 'saving …'
  if (conversion.news) return t('taken from the other device')
  const refused = Object.keys(conversion.refused).length
  if (refused) return refused === 1 ? t('one field not saved') : t('{refused} fields not saved', { refused })
  return conversion.stored ? t('Saved {time}', { time: clockTime(conversion.stored.saved_at) }) : ''
})

/** Fields that hold what could not be read: pressed again, the next of them is shown. */
const refusedPlaces = computed(() => Object.keys(conversion.refused))
let shown = -1
function showRefused(): void {
  shown = (shown + 1) % refusedPlaces.value.length
  void toField(refusedPlaces.value[shown]!)
}

/** A new build starts with the plan of the one on screen: most differ in one part only. */
const addBuild = () => conversion.copyBuild(t('Build {value}', { value: builds.value.length + 1 }))

async function renameBuild(): Promise<void> {
  const { value } = await ElMessageBox.prompt(t('What sets this build apart?'), t('Name this build'), {
    inputValue: conversion.build?.name ?? '',
    inputPattern: /\S/,
    inputErrorMessage: t('A name is needed.'),
    confirmButtonText: t('Keep'),
    cancelButtonText: t('Leave it'),
  }).catch(() => ({ value: '' }))
  if (value.trim()) conversion.edit(`${conversion.buildPath}.name`, value.trim())
}

function removeBuild(): void {
  const index = conversion.buildIndex
  conversion.buildIndex = Math.max(0, index - 1)
  void conversion.removeRow('builds', index)
}

/** All builds by name, then what is done with the one on screen. */
const buildActs = computed(() => [
  ...builds.value.map((build, at) => ({
    value: `show ${at}`,
    label: build.name ?? '',
    current: at === conversion.buildIndex,
  })),
  { value: 'add', label: t('+ another build') },
  { value: 'rename', label: t('Rename this build') },
  { value: 'remove', label: t('Remove this build'), disabled: builds.value.length === 1 },
])
const ACTS: Record<string, () => unknown> = { add: addBuild, rename: renameBuild, remove: removeBuild }
function act(value: string): void {
  if (value.startsWith('show ')) conversion.choose(Number(value.slice(5)))
  else void ACTS[value]?.()
}

interface Page {
  name: string
  title: string
  to: string
  download?: boolean
}
const pages = computed<Page[]>(() => {
  const at = `/conversion/${conversion.stored?.id}`
  const build = `?build=${conversion.buildIndex}`
  const several = { name: t('Compare'), title: t('Builds side by side'), to: `${at}/compare` }
  const ofCell = [
    { name: t('Sheet'), title: t('The build sheet as a page, to read or print'), to: `${at}/sheet${build}` },
    { name: t('To buy'), title: t('What is still to buy for this build'), to: `${at}/shopping${build}` },
  ]
  return [
    ...(builds.value.length > 1 ? [several] : []),
    { name: t('Proposals'), title: t('Builds that the tool proposes by itself'), to: `${at}/proposals` },
    ...(conversion.build?.cell ? ofCell : []),
  ]
})
const file = computed(() => `/api/projects/${conversion.stored?.id}/export`)

/** On a phone everything that is not needed at each step is behind one button. */
const phoneActs = computed(() => [
  ...buildActs.value,
  { value: 'redo', label: t('Redo'), disabled: !conversion.stored?.can_redo },
  ...pages.value.map(({ name, to }) => ({ value: `to ${to}`, label: name })),
  { value: 'logbook', label: t('Logbook') },
  { value: 'export', label: t('Export') },
  { value: 'theme', label: theme.label.value },
  { value: 'help', label: t('Shortcuts and help') },
])
const router = useRouter()
const PHONE_ACTS: Record<string, () => unknown> = {
  redo: conversion.redo,
  logbook: () => emit('logbook'),
  export: () => location.assign(file.value),
  theme: theme.toggle,
  help: () => emit('help'),
}
function phoneAct(value: string): void {
  if (value.startsWith('to ')) void router.push(value.slice(3))
  else if (value in PHONE_ACTS) void PHONE_ACTS[value]!()
  else act(value)
}
</script>

<template>
  <header
    class="flex items-center gap-x-10 h-46 px-16 py-0 border-b border-line bg-sheet whitespace-nowrap narrow:h-56 narrow:px-8 narrow:gap-x-4"
  >
    <RouterLink to="/" class="home tap" title="All conversions" aria-label="Pocket Spark">
      <svg viewBox="0 0 24 24" width="22" height="22" aria-hidden="true">
        <path
          d="M4 3h16v10a8 8 0 0 1-16 0z"
          fill="none"
          stroke="var(--ink)"
          stroke-width="1.8"
          stroke-linejoin="round"
        />
        <path
          d="M12 6v11M8 8.5l8 6M16 8.5l-8 6"
          stroke="var(--copper)"
          stroke-width="2"
          stroke-linecap="round"
        />
      </svg>
      <span class="narrow:hidden">Pocket Spark</span>
    </RouterLink>
    <input
      class="name narrow:flex-1"
      aria-label="Name of the gadget"
      :value="name.text.value"
      maxlength="120"
      @input="name.type"
      @change="name.settle"
    />
    <div class="flex items-center flex-1 min-w-0 narrow:hidden" role="group" aria-label="Builds">
      <MoreActs
        :acts="buildActs"
        class="build bare px-10 py-4 rounded bg-copperwash text-copper font-semibold cursor-pointer"
        :title="conversion.build?.name"
        aria-current="true"
        @act="act"
      >
        <span class="of-build">{{ conversion.build?.name }}</span> <span aria-hidden="true">▾</span>
        <small v-if="builds.length > 1" class="ml-4"
          >{{ conversion.buildIndex + 1 }} of {{ builds.length }}</small
        >
      </MoreActs>
      <button type="button" class="act" @click="addBuild">+ build</button>
    </div>
    <button
      v-if="refusedPlaces.length"
      type="button"
      class="act tap text-stop!"
      :title="Object.values(conversion.refused).join('\n')"
      @click="showRefused"
    >
      {{ saved }}
    </button>
    <span v-else class="text-ink2 text-small narrow:hidden" role="status">{{ saved }}</span>
    <button
      type="button"
      class="act square"
      aria-label="Undo"
      title="Undo"
      :disabled="!conversion.stored?.can_undo"
      @click="conversion.undo"
    >
      <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden="true">
        <path d="M6 3 2.5 6.5 6 10M3 6.5h6a4 4 0 0 1 0 8H6" class="arrow" />
      </svg>
    </button>
    <div class="flex items-center gap-2 narrow:hidden">
      <button
        type="button"
        class="act square"
        aria-label="Redo"
        title="Redo"
        :disabled="!conversion.stored?.can_redo"
        @click="conversion.redo"
      >
        <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden="true">
          <path d="M10 3 13.5 6.5 10 10M13 6.5H7a4 4 0 0 0 0 8h3" class="arrow" />
        </svg>
      </button>
      <RouterLink v-for="page in pages" :key="page.name" class="act" :title="page.title" :to="page.to">{{
        page.name
      }}</RouterLink>
      <button type="button" class="act" title="Write into the logbook" @click="emit('logbook')">
        Logbook
      </button>
      <a class="act" :href="file" download>Export</a>
      <button
        type="button"
        class="act square"
        :aria-label="theme.label.value"
        :title="theme.label.value"
        @click="theme.toggle"
      >
        ◐
      </button>
      <button
        type="button"
        class="act square"
        aria-label="Shortcuts and help"
        title="Shortcuts and help"
        @click="emit('help')"
      >
        ?
      </button>
    </div>
    <MoreActs
      :acts="phoneActs"
      class="more bare hidden w-44 h-44 rounded text-ink text-title text-center font-bold narrow:block"
      aria-label="More"
      @act="phoneAct"
    >
      ⋯
    </MoreActs>
  </header>
</template>

<style scoped>
.home {
  display: flex;
  align-items: center;
  gap: 9px;
  padding-right: 14px;
  border-right: 1px solid var(--line2);
  color: var(--ink);
  font-size: 16px;
  font-weight: 700;
  text-decoration: none;
}
.name {
  min-width: 6em;
  max-width: 16em;
  field-sizing: content;
  padding: 3px 6px;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  color: var(--ink);
  font: 600 15px var(--sans);
  text-overflow: ellipsis;
}
.name:hover {
  border-color: var(--line2);
}
.build {
  display: flex;
  align-items: center;
  gap: 4px;
  min-width: 4em;
}
/* A long name is cut short with dots, never by what stands beside it. */
.of-build {
  overflow: hidden;
  text-overflow: ellipsis;
}
.act {
  flex: none;
  padding: 4px 8px;
  border: 0;
  border-radius: 3px;
  background: none;
  color: var(--ink);
  text-decoration: none;
  cursor: pointer;
}
.act:hover:not(:disabled) {
  background: var(--sunk);
}
.act:disabled {
  color: var(--ink3);
  opacity: 0.55;
  cursor: default;
}
.square {
  width: 28px;
  height: 28px;
  padding: 0;
}
.arrow {
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.6;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.square svg {
  vertical-align: -3px;
}
@media (max-width: 860px) {
  .home {
    justify-content: center;
    width: 40px;
    height: 44px;
    border: 0;
    padding: 0;
  }
  .name {
    min-width: 3em;
    max-width: none;
    height: 44px;
  }
  .act {
    min-height: 44px;
  }
  .square {
    width: 44px;
  }
}
</style>
