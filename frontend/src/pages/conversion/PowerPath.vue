<script setup lang="ts">
/** The chain from source to gadget with its live figures. Charge flows in dashed, the gadget runs on the solid line. */
import { computed, ref } from 'vue'
import type { Assessment, Station } from '@/api/client'
import LevelMark from '@/kit/LevelMark.vue'
import NodeGlyph from '@/drawings/NodeGlyph.vue'

const props = defineProps<{ path: Assessment['path']; station: Station }>()
const emit = defineEmits<{ go: [station: Station] }>()

// One state at a time, so that what flows in one wire flows in the next.
const chosen = ref(0)
const state = computed(() => props.path.states[chosen.value % props.path.states.length]!)
const linkAfter = (index: number) => state.value.links[index]
const figureOf = (key: string, figure: string) => (key === 'gadget' ? state.value.gadget : figure)
</script>

<template>
  <div>
    <ol
      class="path flex items-start m-0 px-20 pt-14 pb-10 border-b border-line bg-sheet list-none narrow:px-14 narrow:py-8 narrow:gap-0 narrow:flex-col"
      aria-label="Power path"
    >
      <template v-for="(node, index) in path.nodes" :key="node.key">
        <li :class="['node', node.key, { 'is-current': node.station === station, missing: !node.present }]">
          <button type="button" class="bare" @click="emit('go', node.station)">
            <span
              class="box relative grid place-items-center w-58 h-48 border-[1.5px] border-line2 rounded-[4px] bg-paper narrow:w-40 narrow:h-32"
            >
              <NodeGlyph :node="node.key" />
              <LevelMark :level="node.level" :size="13" class="worst" />
            </span>
            <span class="words flex flex-col items-center w-168 mt-5 leading-[1.3] text-center">
              <strong class="font-semibold text-balance"
                >{{ node.label }} · {{ figureOf(node.key, node.figure) }}</strong
              >
              <span class="text-ink2 text-small">{{ node.detail }}</span>
            </span>
          </button>
        </li>
        <li v-if="linkAfter(index)" :class="['link', { charging: linkAfter(index)!.charging }]">
          <span class="volts h-18 font-semibold whitespace-nowrap">{{ linkAfter(index)!.volts }}</span>
          <svg class="line" viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
            <path d="M0 5H100" vector-effect="non-scaling-stroke" />
          </svg>
          <span class="current">{{ linkAfter(index)!.current }}</span>
        </li>
      </template>
    </ol>
    <div
      v-if="path.states.length > 1"
      class="states flex flex-wrap items-baseline gap-x-14 gap-y-2 px-20 py-3 border-b border-line bg-sheet text-small narrow:px-14"
      role="group"
      aria-label="State shown"
    >
      <button
        v-for="(one, index) in path.states"
        :key="one.label"
        type="button"
        class="bare"
        :aria-pressed="one === state"
        @click="chosen = index"
      >
        {{ one.label }}
      </button>
      <span class="text-ink2">{{ state.says }}</span>
    </div>
  </div>
</template>

<style scoped>
.path:has(+ .states) {
  padding-bottom: 0;
  border-bottom: 0;
}
.states button {
  padding: 1px 0;
  color: var(--ink2);
  border-bottom: 2px solid transparent;
}
.states button[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--copper);
}
.node {
  flex: none;
  width: 62px;
  position: relative;
}
.node button {
  display: flex;
  flex-direction: column;
  align-items: center;
  width: 62px;
}
.is-current .box {
  border-color: var(--copper);
}
.missing .box {
  border-style: dashed;
  background: none;
}
.missing .box :deep(.glyph) {
  opacity: 0.45;
}
.worst {
  position: absolute;
  top: -7px;
  right: -7px;
  padding: 1px;
  background: var(--sheet);
}
.node:first-child .words {
  align-items: flex-start;
  align-self: flex-start;
  text-align: left;
}
.node:last-child .words {
  align-items: flex-end;
  align-self: flex-end;
  text-align: right;
}
.link {
  flex: 1;
  display: grid;
  justify-items: center;
  min-width: 40px;
  padding: 0 9px;
  font-size: 13px;
  line-height: 16px;
}
.current {
  height: 16px;
  margin-top: 2px;
  color: var(--ink2);
}
.line {
  width: 100%;
  height: 10px;
  overflow: visible;
  stroke: var(--copper2);
  stroke-width: 2;
}
.charging .line {
  stroke-dasharray: 5 4;
}
.link {
  position: relative;
}
.link::after {
  content: '';
  position: absolute;
  right: 8px;
  top: 19px;
  width: 8px;
  height: 8px;
  border: solid var(--copper2);
  border-width: 2px 2px 0 0;
  transform: rotate(45deg);
}

@media (max-width: 860px) {
  .node,
  .node button {
    width: 100%;
  }
  .node button {
    flex-direction: row;
    gap: 12px;
  }
  .box :deep(.glyph) {
    width: 32px;
    height: 26px;
  }
  .words,
  .node:first-child .words,
  .node:last-child .words {
    width: auto;
    margin: 0;
    align-items: flex-start;
    align-self: center;
    text-align: left;
  }
  .link {
    display: flex;
    gap: 10px;
    width: 100%;
    padding: 0 0 0 19px;
    line-height: 20px;
    border: 0;
  }
  .link::before {
    content: '';
    width: 2px;
    height: 20px;
    background: var(--copper2);
  }
  .charging::before {
    background: repeating-linear-gradient(var(--copper2) 0 4px, transparent 4px 7px);
  }
  .link .line,
  .link::after {
    display: none;
  }
  .volts,
  .current {
    height: auto;
    margin: 0;
    font-size: 12.5px;
  }
}
</style>
