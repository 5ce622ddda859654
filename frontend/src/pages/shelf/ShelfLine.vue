<script setup lang="ts">
/** One conversion on the shelf: its picture, how far it is, what stands against it, and what to do next. */
import { computed } from 'vue'

import type { ProjectLine } from '@/api/client'
import BayThumb from '@/drawings/BayThumb.vue'
import { dayAndTime, dayOfMonth, days } from '@/format'
import LevelMark from '@/kit/LevelMark.vue'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const props = defineProps<{ line: ProjectLine; archived?: boolean }>()
const emit = defineEmits<{ archive: []; restore: []; duplicate: []; repair: []; tag: [tag: string] }>()
const reference = useReference()

/** When it has to be charged again, counted from the last full charge that is known of it. */
const due = computed(() => {
  const recharge = props.line.summary?.recharge
  if (!recharge) return undefined
  const [charged, by, lost] = [recharge.charged, recharge.by, recharge.lost].map((day) => Date.parse(day))
  const late = Date.now() > by!
  const says = late
    ? t('not charged for {value}: measure {it}', {
        value: days((Date.now() - charged!) / 86_400_000),
        it: Date.now() > lost! ? t('whether it still lives') : 'it',
      })
    : t('charge by {day} {year}', {
        day: dayOfMonth(by!, 3),
        year: new Date(by!).getFullYear(),
      })
  return { late, says }
})
const stage = () => reference.tables?.stages.find(({ value }) => value === props.line.summary?.stage)
</script>

<template>
  <li
    class="grid grid-cols-[64px_minmax(150px,1.1fr)_96px_minmax(0,1.5fr)_172px_minmax(130px,0.9fr)_52px] items-center gap-y-2 gap-x-16 px-4 py-9 border-b border-line hover:bg-sheet narrow:grid-cols-[64px_minmax(0,1fr)_auto]"
  >
    <template v-if="line.summary">
      <BayThumb :picture="line.summary.picture" aria-hidden="true" />
      <span class="what">
        <RouterLink
          class="tap text-ink text-large font-bold no-underline hover:[text-decoration:underline_var(--copper)] hover:underline-offset-[3px]"
          :to="`/conversion/${line.id}/${line.summary.worth ? 'verdict' : 'survey'}`"
          >{{ line.name }}</RouterLink
        >
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
      <span
        class="narrow:col-start-3"
        :title="[stage()?.detail, ...(line.summary.reservations ?? [])].join('\n')"
        >{{ stage()?.label }}</span
      >
      <span class="says flex gap-8 leading-[1.3]" :class="{ outdated: line.outdated }">
        <LevelMark :level="line.summary.worst" :size="15" />
        <span v-if="line.outdated" class="quiet">Being judged anew …</span>
        <span v-else
          ><b v-if="line.summary.worth">{{ line.summary.worth }}.</b>
          {{ line.summary.headline || 'Nothing against it so far' }}</span
        >
      </span>
      <span class="figures" :class="{ outdated: line.outdated }"
        ><span>{{ line.summary.charges }}</span
        ><span>{{ line.summary.runs }}</span
        ><span v-if="due" :class="due.late ? 'text-caution font-semibold' : 'quiet'">{{ due.says }}</span
        ><span v-else-if="line.summary.serves" class="quiet">{{ line.summary.serves }}</span></span
      >
      <span class="next font-semibold">
        <RouterLink
          v-if="line.summary.next_step && !archived"
          class="tap"
          :to="`/conversion/${line.id}/${line.summary.next_step.page}`"
          >{{ line.summary.next_step.text }}</RouterLink
        >
        <span class="quiet small">{{ dayAndTime(line.saved_at) }}</span>
      </span>
    </template>
    <template v-else>
      <LevelMark :level="line.unreadable ? 'stop' : 'note'" :size="18" />
      <span class="what">
        <RouterLink
          class="tap text-ink text-large font-bold no-underline hover:[text-decoration:underline_var(--copper)] hover:underline-offset-[3px]"
          :to="`/conversion/${line.id}/survey`"
          >{{ line.name }}</RouterLink
        >
        <span class="quiet small">{{ dayAndTime(line.saved_at) }}</span>
      </span>
      <span class="says unreadable flex col-[3_/_6] gap-8 leading-[1.3]">{{
        line.unreadable || 'Not judged yet.'
      }}</span>
      <span v-if="line.unreadable" class="next font-semibold">
        <a class="tap" :href="`/api/projects/${line.id}/raw`" download>Save it as it is</a>
        <button type="button" class="bare link-button" @click="emit('repair')">Repair it</button>
      </span>
    </template>
    <span class="acts flex justify-end gap-14 narrow:col-[2_/_-1]">
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
.what,
.figures,
.next {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
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
.outdated {
  opacity: 0.45;
}
.acts svg {
  display: block;
  fill: none;
  stroke: var(--ink2);
  stroke-width: 1.3;
}
@media (max-width: 860px) {
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
}
</style>
