<script setup lang="ts">
/** What the maker wishes, in three lines of chips; each says what turning it the other way round would come to. */
import { computed } from 'vue'

import type { Opens, Wishes } from '@/api/client'
import { wishesOf, type SetWishes } from '@/pages/proposals/useWishes'
import TypedInput from '@/kit/TypedInput.vue'
import { useReference } from '@/stores/reference'

const props = defineProps<{ may: string[]; opens: Opens[] }>()
const emit = defineEmits<{ wished: [wishes: Wishes] }>()
/** As they are set: a reload finds them again. */
const set = defineModel<SetWishes>({ required: true })

const reference = useReference()
const switched = computed(() => set.value.switched)
const figures = computed(() => set.value.figures)

/** Until it is known what there is, every wish is offered. */
const groups = computed(() =>
  (reference.tables?.wish_groups ?? []).map((group) => ({
    ...group,
    wishes: (reference.tables?.wishes ?? []).filter(
      (wish) => wish.group === group.value && (!props.may.length || props.may.includes(wish.value)),
    ),
  })),
)
/** What is not settled stays unsaid here. */
const costOf = (key: string) => props.opens.find((one) => key in one.wishes && one.settled)?.sentence
const count = computed(() => Object.keys(wishesOf(set.value)).length)
// On a phone the answers come first.
const wide = window.matchMedia('(min-width: 700px)').matches

function put(changed: SetWishes): void {
  set.value = changed
  emit('wished', wishesOf(changed))
}
const turn = (key: string) =>
  put({ ...set.value, switched: { ...switched.value, [key]: !switched.value[key] } })
const write = (key: string, text: string) => put({ ...set.value, figures: { ...figures.value, [key]: text } })
</script>

<template>
  <details class="mx-0 mt-6 mb-12" :open="wide">
    <summary>Wishes{{ count ? `, ${count} set` : '' }}</summary>
    <form class="grid gap-y-4 mt-6" aria-label="Wishes" @submit.prevent>
      <div
        v-for="group in groups"
        :key="group.value"
        role="group"
        :aria-label="group.label"
        class="grid grid-cols-[58px_minmax(0,1fr)] narrow:grid-cols-1 items-start gap-6"
      >
        <b class="mt-4 text-ink2" :title="group.detail">{{ group.label }}</b>
        <div class="grid grid-cols-[repeat(auto-fill,minmax(162px,1fr))] narrow:grid-cols-2 gap-4 text-small">
          <template v-for="wish in group.wishes" :key="wish.value">
            <label v-if="wish.unit" :class="['wish', { on: figures[wish.value]?.trim() }]">
              {{ wish.label }}
              <TypedInput
                :value="figures[wish.value] ?? ''"
                class="figure"
                type="text"
                inputmode="decimal"
                :aria-label="`${wish.label}, ${wish.unit}`"
                @settle="write(wish.value, $event)"
              />
              {{ wish.unit }}
              <small>{{ costOf(wish.value) }}</small>
            </label>
            <button
              v-else
              type="button"
              :class="['wish', { on: switched[wish.value] }]"
              :aria-pressed="!!switched[wish.value]"
              @click="turn(wish.value)"
            >
              {{ wish.label }}
              <small
                >{{ costOf(wish.value) && switched[wish.value] ? 'else ' : ''
                }}{{ costOf(wish.value) }}</small
              >
            </button>
          </template>
        </div>
      </div>
    </form>
  </details>
</template>

<style scoped>
/* Room for what it costs is kept: it is known last, and nothing is to jump then. */
.wish {
  min-height: var(--target);
  padding: 2px 6px;
  text-align: left;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
}
button.wish {
  cursor: pointer;
}
.wish.on {
  border-color: var(--copper);
  background: var(--copperwash);
  font-weight: 600;
}
summary {
  width: max-content;
  color: var(--ink2);
  font-weight: 600;
  cursor: pointer;
}
.figure {
  width: 32px;
  min-height: 0;
  padding: 0 2px;
  border: 0;
  border-bottom: 1px solid var(--ink2);
  background: none;
  color: var(--ink);
  font: inherit;
  font-family: var(--mono);
  text-align: right;
}
.wish small {
  display: block;
  min-height: 15px;
  line-height: 15px;
  color: var(--ink2);
  font-weight: 400;
}
</style>
