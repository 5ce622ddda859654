<script setup lang="ts">
/** One conversion on the shelf: its picture, how far it is, what stands against it, and what to do next. */
import type { ProjectLine } from '@/api/client'
import BayThumb from '@/drawings/BayThumb.vue'
import LevelMark from '@/kit/LevelMark.vue'
import { useReference } from '@/stores/reference'

const props = defineProps<{ line: ProjectLine; archived?: boolean }>()
const emit = defineEmits<{ archive: []; restore: []; duplicate: []; repair: []; tag: [tag: string] }>()
const reference = useReference()

const stage = () => reference.tables?.stages.find(({ value }) => value === props.line.summary?.stage)
const when = (iso: string) =>
  new Date(iso).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  })
</script>

<template>
  <li class="shelf-line">
    <template v-if="line.summary">
      <BayThumb :picture="line.summary.picture" aria-hidden="true" />
      <span class="what">
        <RouterLink :to="`/conversion/${line.id}/survey`">{{ line.name }}</RouterLink>
        <span class="quiet"
          >{{ line.summary.supply
          }}<template v-if="line.summary.builds > 1"> · {{ line.summary.builds }} builds</template></span
        >
        <span v-if="line.summary.tags?.length" class="tags">
          <button
            v-for="tag in line.summary.tags"
            :key="tag"
            type="button"
            :title="`Show all with ${tag}`"
            @click="emit('tag', tag)"
          >
            {{ tag }}
          </button>
        </span>
      </span>
      <span class="stage" :title="stage()?.detail">{{ stage()?.label }}</span>
      <span class="says" :class="{ outdated: line.outdated }">
        <LevelMark :level="line.summary.worst" :size="15" />
        <span v-if="line.outdated" class="quiet">Being judged anew by newer rules …</span>
        <span v-else>{{ line.summary.headline || 'Nothing against it so far' }}</span>
      </span>
      <span class="figures" :class="{ outdated: line.outdated }"
        ><span>{{ line.summary.charges }}</span
        ><span>{{ line.summary.runs }}</span></span
      >
      <span class="next">
        <RouterLink
          v-if="line.summary.next_step && !archived"
          :to="`/conversion/${line.id}/${line.summary.next_step.page}`"
          >{{ line.summary.next_step.text }}</RouterLink
        >
        <span class="quiet small">{{ when(line.saved_at) }}</span>
      </span>
    </template>
    <template v-else>
      <LevelMark level="stop" :size="18" />
      <span class="what">
        <RouterLink :to="`/conversion/${line.id}/survey`">{{ line.name }}</RouterLink>
        <span class="quiet small">{{ when(line.saved_at) }}</span>
      </span>
      <span class="says unreadable">{{ line.unreadable || 'Not judged yet.' }}</span>
      <span v-if="line.unreadable" class="next">
        <a :href="`/api/projects/${line.id}/raw`" download>Save it as it is</a>
        <button type="button" class="bare link-button" @click="emit('repair')">Repair it</button>
      </span>
    </template>
    <span class="acts">
      <template v-if="archived">
        <button type="button" class="bare link-button" @click="emit('restore')">Restore</button>
      </template>
      <template v-else>
        <button
          type="button"
          class="bare"
          :aria-label="`Duplicate ${line.name}`"
          title="Duplicate: the same survey and plans for another one"
          @click="emit('duplicate')"
        >
          <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden="true">
            <path d="M5 5V2h9v9h-3M2 5h9v9H2z" />
          </svg>
        </button>
        <button
          type="button"
          class="bare"
          :aria-label="`Archive ${line.name}`"
          title="Archive"
          @click="emit('archive')"
        >
          <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden="true">
            <path d="M2 3h12v3H2zM3 6v8h10V6M8 8v4M6 10l2 2 2-2" />
          </svg>
        </button>
      </template>
    </span>
  </li>
</template>

<style scoped>
.shelf-line {
  display: grid;
  grid-template-columns: 64px minmax(150px, 1.1fr) 96px minmax(0, 1.7fr) 130px minmax(130px, 0.9fr) 52px;
  align-items: center;
  gap: 2px 16px;
  padding: 9px 4px;
  border-bottom: 1px solid var(--line);
}
.shelf-line:hover {
  background: var(--sheet);
}
.what,
.figures,
.next {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
}
.what a {
  color: var(--ink);
  font-size: 16px;
  font-weight: 700;
  text-decoration: none;
}
.what a:hover {
  text-decoration: underline var(--copper);
  text-underline-offset: 3px;
}
.tags button {
  margin: 2px 5px 0 0;
  padding: 0 7px;
  border: 0;
  border-radius: 3px;
  background: var(--sunk);
  font-size: 12.5px;
  cursor: pointer;
}
.says {
  display: flex;
  gap: 8px;
  line-height: 1.3;
}
.unreadable {
  grid-column: 3 / 6;
}
.next {
  font-weight: 600;
}
.outdated {
  opacity: 0.45;
}
.acts {
  display: flex;
  gap: 14px;
  justify-content: flex-end;
}
.acts svg {
  display: block;
  fill: none;
  stroke: var(--ink2);
  stroke-width: 1.3;
}
@media (max-width: 860px) {
  .shelf-line {
    grid-template-columns: 64px minmax(0, 1fr) auto;
  }
  .stage {
    grid-column: 3;
  }
  .says,
  .figures,
  .next,
  .unreadable {
    grid-column: 2 / -1;
  }
  .figures {
    flex-direction: row;
    gap: 12px;
  }
  .acts {
    grid-column: 2 / -1;
  }
  .acts button {
    min-width: 44px;
    min-height: 44px;
  }
}
</style>
