<script setup lang="ts">
/** The header of an open conversion: its name, its builds, how it is saved, the way back and forth. */
import { computed } from 'vue'

import { useFieldPlace } from '@/composables/useFieldPlace'
import { useTypedText } from '@/composables/useTypedText'
import { useTheme } from '@/composables/useTheme'
import { clockTime } from '@/format'
import MoreActs from '@/kit/MoreActs.vue'
import { useConversion } from '@/stores/conversion'

const emit = defineEmits<{ help: []; findings: []; logbook: [] }>()
const conversion = useConversion()
const theme = useTheme()
const { toField } = useFieldPlace()
const name = useTypedText('gadget.name')

const builds = computed(() => conversion.document?.builds ?? [])

const saved = computed(() => {
  if (conversion.unsaved) return 'saving …'
  if (conversion.news) return 'taken from the other device'
  const refused = Object.keys(conversion.refused).length
  if (refused) return refused === 1 ? 'one field not saved' : `${refused} fields not saved`
  return conversion.stored ? `Saved ${clockTime(conversion.stored.saved_at)}` : ''
})

/** Fields that hold what could not be read: pressed again, the next of them is shown. */
const refusedPlaces = computed(() => Object.keys(conversion.refused))
let shown = -1
function showRefused(): void {
  shown = (shown + 1) % refusedPlaces.value.length
  void toField(refusedPlaces.value[shown]!)
}

/** A new build starts with the plan of the one on screen: most differ in one part only. */
const addBuild = () => conversion.copyBuild(`Build ${builds.value.length + 1}`)

async function renameBuild(): Promise<void> {
  const { value } = await ElMessageBox.prompt('What sets this build apart?', 'Name this build', {
    inputValue: conversion.build?.name ?? '',
    inputPattern: /\S/,
    inputErrorMessage: 'A name is needed.',
    confirmButtonText: 'Keep',
    cancelButtonText: 'Leave it',
  }).catch(() => ({ value: '' }))
  if (value.trim()) conversion.edit(`${conversion.buildPath}.name`, value.trim())
}

function removeBuild(): void {
  const index = conversion.buildIndex
  conversion.buildIndex = Math.max(0, index - 1)
  void conversion.removeRow('builds', index)
}

const acts = computed(
  () =>
    [
      { value: 'rename', label: 'Rename this build' },
      { value: 'remove', label: 'Remove this build', disabled: builds.value.length === 1 },
    ] as const,
)
const ACTS = { rename: renameBuild, remove: removeBuild }
</script>

<template>
  <header
    class="flex flex-wrap items-center gap-x-14 min-h-46 px-16 py-0 border-b border-line bg-sheet narrow:px-10 narrow:py-6 narrow:gap-y-4 narrow:gap-x-8 narrow:flex-wrap narrow:h-auto"
  >
    <RouterLink to="/" class="home tap" title="All conversions">
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
    <div
      class="builds flex items-center flex-1 gap-2 min-w-150 overflow-x-auto narrow:order-3 narrow:basis-full"
      role="group"
      aria-label="Builds"
    >
      <template v-for="(build, index) in builds" :key="index">
        <MoreActs
          v-if="index === conversion.buildIndex"
          :acts="acts"
          class="build is-current px-10 py-4 border-0 rounded bg-transparent text-ink2 whitespace-nowrap cursor-pointer hover:bg-sunk"
          aria-current="true"
          @act="(act) => void ACTS[act]()"
        >
          {{ build.name }} <span aria-hidden="true">▾</span>
        </MoreActs>
        <button
          v-else
          type="button"
          :title="build.name"
          class="build other px-10 py-4 border-0 rounded bg-transparent text-ink2 whitespace-nowrap cursor-pointer hover:bg-sunk"
          @click="conversion.choose(index)"
        >
          {{ build.name }}
        </button>
      </template>
      <button
        type="button"
        class="build add sticky right-0 px-10 py-4 border-0 rounded bg-sheet text-ink2 whitespace-nowrap cursor-pointer hover:bg-sunk"
        @click="addBuild"
      >
        + build
      </button>
    </div>
    <div
      class="right flex items-center gap-4 ml-auto narrow:gap-0 narrow:flex-[0_0_100%] narrow:order-4 narrow:overflow-x-auto"
    >
      <button
        v-if="refusedPlaces.length"
        type="button"
        class="act tap text-stop!"
        :title="Object.values(conversion.refused).join('\n')"
        @click="showRefused"
      >
        {{ saved }}
      </button>
      <span v-else class="mr-8 text-ink2 text-small whitespace-nowrap narrow:hidden" role="status">{{
        saved
      }}</span>
      <button type="button" class="act" :disabled="!conversion.stored?.can_undo" @click="conversion.undo">
        Undo
      </button>
      <button type="button" class="act" :disabled="!conversion.stored?.can_redo" @click="conversion.redo">
        Redo
      </button>
      <RouterLink v-if="builds.length > 1" class="act" :to="`/conversion/${conversion.stored?.id}/compare`"
        >Compare</RouterLink
      >
      <RouterLink
        class="act"
        title="Builds that the tool proposes by itself"
        :to="`/conversion/${conversion.stored?.id}/proposals`"
        >Proposals</RouterLink
      >
      <button type="button" class="act" title="Write into the logbook" @click="emit('logbook')">
        Logbook
      </button>
      <RouterLink
        v-if="conversion.build?.cell"
        class="act"
        title="The build sheet as a page, to read or print"
        :to="`/conversion/${conversion.stored?.id}/sheet?build=${conversion.buildIndex}`"
        >Sheet</RouterLink
      >
      <RouterLink
        v-if="conversion.build?.cell"
        class="act"
        title="What is still to buy for this build"
        :to="`/conversion/${conversion.stored?.id}/shopping?build=${conversion.buildIndex}`"
        >To buy</RouterLink
      >
      <a class="act" :href="`/api/projects/${conversion.stored?.id}/export`" download>Export</a>
      <button type="button" class="act findings-toggle hidden" @click="emit('findings')">Findings</button>
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
  white-space: nowrap;
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
/* A long name is cut short with dots, never by the button beside it. */
.other {
  flex: 0 1 auto;
  min-width: 4.5em;
  overflow: hidden;
  text-overflow: ellipsis;
}
.add {
  flex: none;
}
.build.is-current {
  background: var(--copperwash);
  color: var(--copper);
  font-weight: 600;
}
.act {
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
  width: 26px;
  height: 26px;
  padding: 0;
  border: 1px solid var(--line2);
}
@media (max-width: 860px) {
  .home {
    border: 0;
    padding: 0;
  }
  /* One row that is pushed sideways: two rows of buttons would take the step off a phone's screen. */
  .right .act {
    padding: 4px 6px;
  }
  .act,
  .build {
    display: inline-flex;
    align-items: center;
    justify-content: center;
    min-height: 44px;
  }
  .square {
    width: 44px;
  }
  .findings-toggle {
    display: inline-flex;
    order: -1;
    font-weight: 600;
  }
}
</style>
