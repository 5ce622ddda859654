<script setup lang="ts">
/** Every conversion with what it comes to and what stands against it. */
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'

import LevelMark from '@/kit/LevelMark.vue'
import { useTheme } from '@/composables/useTheme'
import { useProjects } from '@/stores/projects'
import type { Summary } from '@/api/client'

const projects = useProjects()
const router = useRouter()
const theme = useTheme()

const name = ref('')
const file = ref<HTMLInputElement>()
const lastArchived = ref<{ id: number; name: string }>()

onMounted(() => {
  document.title = 'Pocket Spark'
  void projects.load()
})

async function make(): Promise<void> {
  const made = await projects.make(name.value)
  if (made) await router.push(`/conversion/${made.id}/survey`)
}

async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const chosen = input.files?.[0]
  if (!chosen) return
  const made = await projects.importFile(chosen)
  input.value = ''
  if (made) await router.push(`/conversion/${made.id}/survey`)
}

async function repair(id: number): Promise<void> {
  const repaired = await projects.repair(id)
  if (repaired) await router.push(`/conversion/${id}/survey`)
}

const standing = (summary: Summary) =>
  (summary.finished ? 'Finished and proven' : '') ||
  summary.headline ||
  (summary.runs ? 'Nothing against it so far' : 'Just begun: parts to be chosen')

async function archive(line: { id: number; name: string }): Promise<void> {
  await projects.archive(line.id)
  lastArchived.value = line
}

async function restore(): Promise<void> {
  if (lastArchived.value) await projects.restore(lastArchived.value.id)
  lastArchived.value = undefined
}

const when = (iso: string) =>
  new Date(iso).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  })
</script>

<template>
  <div class="projects">
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
      <div>
        <h1>Pocket Spark</h1>
        <p class="quiet">
          From old batteries to one rechargeable cell, worked out before anything is soldered.
        </p>
      </div>
      <RouterLink to="/parts" class="link">Your parts</RouterLink>
      <RouterLink to="/trainer" class="link">Find the fault</RouterLink>
      <RouterLink to="/rules" class="link">What is checked</RouterLink>
      <RouterLink to="/glossary" class="link">Words</RouterLink>
      <RouterLink to="/safekeeping" class="link">Safekeeping</RouterLink>
      <button
        type="button"
        class="square"
        :aria-label="theme.label.value"
        :title="theme.label.value"
        @click="theme.toggle"
      >
        ◐
      </button>
    </header>

    <main>
      <form class="new" @submit.prevent="make">
        <label for="new-name">New conversion</label>
        <input
          id="new-name"
          v-model="name"
          placeholder="what is it? e.g. rain gauge"
          maxlength="120"
          autocomplete="off"
        />
        <ElButton type="primary" native-type="submit" :disabled="!name.trim()">Start the survey</ElButton>
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
      <p v-if="projects.problem" class="problem" role="alert">{{ projects.problem }}</p>
      <p v-if="lastArchived" class="away" role="status">
        {{ lastArchived.name }} is archived.
        <button type="button" class="bare" @click="restore">Restore it</button>
      </p>

      <ul v-if="projects.lines?.length" aria-label="Conversions">
        <li v-for="line in projects.lines" :key="line.id">
          <template v-if="line.summary">
            <LevelMark :level="line.summary.worst" :size="18" :class="{ outdated: line.outdated }" />
            <RouterLink :to="`/conversion/${line.id}/survey`" class="what">
              <strong>{{ line.name }}</strong>
              <span class="quiet">{{ line.summary.supply }}</span>
            </RouterLink>
            <span v-if="line.outdated" class="says quiet">Being judged anew by newer rules …</span>
            <span v-else class="says">{{ standing(line.summary) }}</span>
            <span class="figures" :class="{ outdated: line.outdated }"
              ><span>{{ line.summary.charges }}</span
              ><span>{{ line.summary.runs }}</span></span
            >
            <span class="quiet when"
              >{{ line.summary.builds > 1 ? `${line.summary.builds} builds · ` : ''
              }}{{ when(line.saved_at) }}</span
            >
          </template>
          <template v-else>
            <LevelMark level="stop" :size="18" />
            <RouterLink :to="`/conversion/${line.id}/survey`" class="what">
              <strong>{{ line.name }}</strong>
            </RouterLink>
            <span class="says">{{ line.unreadable || 'Not judged yet.' }}</span>
            <span v-if="line.unreadable" class="figures">
              <a :href="`/api/projects/${line.id}/raw`" download>Save it as it is</a>
              <button type="button" class="bare link-button" @click="repair(line.id)">Repair it</button>
            </span>
            <span class="quiet when">{{ when(line.saved_at) }}</span>
          </template>
          <button
            type="button"
            class="bare put"
            :aria-label="`Archive ${line.name}`"
            title="Archive"
            @click="archive(line)"
          >
            ×
          </button>
        </li>
      </ul>
      <p v-else-if="projects.problem && !projects.lines" class="quiet">
        <button type="button" class="bare link" @click="projects.load()">Try again</button>
      </p>
      <div v-if="projects.lines && !projects.lines.length" class="teach">
        <h2>No conversions yet</h2>
        <p>
          Take the gadget, its batteries and a multimeter. Name the gadget above: the survey asks what
          batteries it takes and what it draws, then picks up from there. <b>./spark demo</b> shows some
          finished ones.
        </p>
      </div>
    </main>
  </div>
</template>

<style scoped>
.projects {
  max-width: 1120px;
  margin: 0 auto;
  padding: 22px 20px 40px;
}
header {
  display: flex;
  align-items: center;
  gap: 14px;
}
header div {
  flex: 1;
}
.square {
  width: 28px;
  height: 28px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: none;
  cursor: pointer;
}
.new {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 10px;
  margin: 26px 0 8px;
}
.new label {
  font-weight: 600;
}
.new input:not([type='file']) {
  width: 280px;
  height: 30px;
  padding: 0 10px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font: 14px var(--sans);
}
.new input::placeholder {
  color: var(--ink3);
}
.problem {
  padding: 6px 0;
  color: var(--stop);
}
.away button {
  color: var(--copper);
  font-weight: 600;
  text-decoration: underline;
}
ul {
  margin: 14px 0 0;
  padding: 0;
  list-style: none;
  border-top: 1px solid var(--line2);
}
li {
  display: grid;
  grid-template-columns: 18px minmax(180px, 1.1fr) minmax(0, 2fr) 150px 130px 24px;
  align-items: center;
  gap: 0 18px;
  padding: 11px 4px;
  border-bottom: 1px solid var(--line);
}
li:hover {
  background: var(--sheet);
}
.what {
  display: flex;
  flex-direction: column;
  color: var(--ink);
  text-decoration: none;
}
.what strong {
  font-size: 16px;
}
.what:hover strong {
  text-decoration: underline;
  text-decoration-color: var(--copper);
  text-underline-offset: 3px;
}
.figures {
  display: flex;
  flex-direction: column;
}
.when {
  font-size: 12.5px;
}
.outdated {
  opacity: 0.45;
}
.put {
  color: var(--ink2);
  font-size: 18px;
  text-align: center;
}
.teach {
  max-width: 44em;
  margin-top: 30px;
}
@media (max-width: 860px) {
  header .quiet {
    display: none;
  }
  li {
    grid-template-columns: 18px minmax(0, 1fr) 40px;
    gap: 2px 12px;
  }
  .says,
  .figures,
  .when {
    grid-column: 2;
  }
  .figures {
    flex-direction: row;
    gap: 12px;
  }
  .put {
    grid-column: 3;
    grid-row: 1;
    min-height: 40px;
  }
  .new input:not([type='file']) {
    width: 100%;
  }
}
</style>
