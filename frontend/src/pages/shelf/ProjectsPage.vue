<script setup lang="ts">
/** The shelf: every conversion with how far it is, what it comes to, and what to do next. */
import { useIntersectionObserver } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'

import FirstVisit from '@/pages/shelf/FirstVisit.vue'
import ShelfLine from '@/pages/shelf/ShelfLine.vue'
import { ORDERS, useShelf } from '@/pages/shelf/useShelf'
import { useTheme } from '@/composables/useTheme'
import { useTour } from '@/composables/useTour'
import { useProjects } from '@/stores/projects'
import { useReference } from '@/stores/reference'

const projects = useProjects()
const reference = useReference()
const router = useRouter()
const theme = useTheme()
const tour = useTour()

const name = ref('')
const file = ref<HTMLInputElement>()
const lastArchived = ref<{ id: number; name: string }>()
const { words, stage, away, order, show } = useShelf()
const counts = computed(() => projects.counts)

/** The next page before the end of the last one comes into sight. */
const end = ref<HTMLElement>()
useIntersectionObserver(end, ([entry]) => void (entry?.isIntersecting && projects.more()), {
  rootMargin: '800px',
})

onMounted(() => {
  document.title = 'Pocket Spark'
  void projects.sendWhatWaits().then(() => projects.load())
})

async function goTo(made: { id: number } | undefined, page = 'survey'): Promise<void> {
  if (made) await router.push(`/conversion/${made.id}/${page}`)
}

const make = async () => goTo(await projects.make(name.value))
async function example(): Promise<void> {
  tour.begin()
  await goTo(await projects.example(), 'power')
}

async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const chosen = input.files?.[0]
  if (!chosen) return
  const made = await projects.importFile(chosen)
  input.value = ''
  await goTo(made)
}

async function archive(line: { id: number; name: string }): Promise<void> {
  await projects.archive(line.id)
  lastArchived.value = line
}

async function restore(id: number): Promise<void> {
  await projects.restore(id)
  lastArchived.value = undefined
  away.value = false
}
</script>

<template>
  <div class="projects max-w-1160 mx-auto my-0 px-20 pt-22 pb-40">
    <header>
      <svg viewBox="0 0 24 24" width="30" height="30" aria-hidden="true">
        <path
          d="M4 3h16v10a8 8 0 0 1-16 0z"
          fill="none"
          stroke="var(--ink)"
          stroke-width="1.6"
          stroke-linejoin="round"
        />
        <path
          d="M12 6v11M8 8.5l8 6M16 8.5l-8 6"
          stroke="var(--copper)"
          stroke-width="1.9"
          stroke-linecap="round"
        />
      </svg>
      <div class="flex-1">
        <h1>Pocket Spark</h1>
        <p class="quiet narrow:hidden">
          From old batteries to one rechargeable cell, worked out before anything is soldered.
        </p>
      </div>
      <nav aria-label="Beside the shelf">
        <RouterLink to="/clock">Bench clock</RouterLink>
        <RouterLink to="/parts">Your parts</RouterLink>
        <RouterLink to="/measuring">How to measure</RouterLink>
        <RouterLink to="/trainer">Find the fault</RouterLink>
        <RouterLink to="/rules">What is checked</RouterLink>
        <RouterLink to="/glossary">Words</RouterLink>
        <RouterLink to="/safekeeping">Safekeeping</RouterLink>
        <RouterLink to="/settings">Settings</RouterLink>
        <button
          type="button"
          class="w-28 h-28 framed bg-transparent cursor-pointer"
          :aria-label="theme.label.value"
          :title="theme.label.value"
          @click="theme.toggle"
        >
          ◐
        </button>
      </nav>
    </header>

    <main>
      <form class="new" @submit.prevent="router.push({ path: '/new', query: name ? { name } : {} })">
        <label class="font-semibold" for="new-name">New conversion</label>
        <input
          id="new-name"
          v-model="name"
          class="text-input w-280"
          placeholder="what is it? e.g. rain gauge"
          maxlength="120"
          autocomplete="off"
        />
        <ElButton type="primary" native-type="submit">Begin by pictures</ElButton>
        <ElButton :disabled="!name.trim()" @click="make">Start the survey</ElButton>
        <ElButton @click="file?.click()">Import a file …</ElButton>
        <input
          ref="file"
          type="file"
          accept=".json,.zip,application/json,application/zip"
          class="visually-hidden"
          tabindex="-1"
          aria-label="Project file"
          @change="take"
        />
      </form>
      <p v-if="projects.problem" class="error-line" role="alert">{{ projects.problem }}</p>
      <p v-if="lastArchived" role="status">
        {{ lastArchived.name }} is archived.
        <button type="button" class="bare link-button" @click="restore(lastArchived.id)">Restore it</button>
      </p>

      <template v-if="projects.lines && (counts?.shelf || counts?.archived)">
        <div class="sieve mt-18" role="search" aria-label="Conversions to show">
          <input
            v-model="words"
            class="text-input"
            type="search"
            aria-label="Find a conversion"
            placeholder="find: lamp, AA, a tag"
          />
          <div role="group" aria-label="How far they are">
            <button type="button" :aria-pressed="!stage && !away" @click="show('')">
              All {{ counts.shelf }}
            </button>
            <template v-for="choice in reference.tables?.stages" :key="choice.value">
              <button
                v-if="counts.stages[choice.value] && !away"
                type="button"
                :title="choice.detail"
                :aria-pressed="stage === choice.value"
                @click="show(choice.value)"
              >
                {{ choice.label }} {{ counts.stages[choice.value] }}
              </button>
            </template>
            <button v-if="counts.archived" type="button" :aria-pressed="away" @click="show('archived')">
              Archived {{ counts.archived }}
            </button>
          </div>
          <button
            v-for="(label, key) in ORDERS"
            :key="key"
            type="button"
            class="bare text-ink2 text-small aria-pressed:text-ink aria-pressed:font-semibold"
            :aria-pressed="order === key"
            @click="order = key"
          >
            {{ label }}
          </button>
        </div>
        <ul class="mx-0 mt-8 mb-0 p-0 border-t border-line2" aria-label="Conversions">
          <ShelfLine
            v-for="line in projects.lines"
            :key="line.id"
            :line="line"
            :archived="away"
            @archive="archive(line)"
            @restore="restore(line.id)"
            @duplicate="projects.duplicate(line)"
            @repair="projects.repair(line.id).then(goTo)"
            @tag="words = $event"
          />
        </ul>
        <div ref="end" aria-hidden="true"></div>
        <p v-if="!projects.lines.length" class="quiet">
          None of them is like that.
          <button type="button" class="bare link-button" @click="((words = ''), show(''))">Show all</button>
        </p>
      </template>
      <p v-else-if="projects.problem && !projects.lines">
        <button type="button" class="bare link-button" @click="projects.load()">Try again</button>
      </p>
      <FirstVisit v-if="counts?.shelf === 0 && !away" @example="example" />
    </main>
  </div>
</template>

<style scoped>
header,
nav,
.new,
.sieve,
.sieve [role='group'] {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
}
.new {
  gap: 8px 10px;
  margin: 26px 0 8px;
}
.sieve [role='group'] {
  flex: 1;
  gap: 4px;
}
.sieve [role='group'] button {
  padding: 3px 9px;
  border: 0;
  border-bottom: 2px solid transparent;
  background: none;
  color: var(--ink2);
  cursor: pointer;
}
.sieve [role='group'] button[aria-pressed='true'] {
  border-color: var(--copper);
  color: var(--copper);
  font-weight: 600;
}
@media (max-width: 860px) {
  /* One row each that is pushed sideways: the shelf itself has to be seen. */
  nav,
  .sieve [role='group'] {
    flex-basis: 100%;
    flex-wrap: nowrap;
    overflow-x: auto;
    white-space: nowrap;
  }
  .new :deep(.el-button + .el-button) {
    margin-left: 0;
  }
  .text-input {
    width: 100% !important;
  }
}
</style>
