<script setup lang="ts">
/** What the keys do, and what the marks mean. */
import BasisMark from '@/kit/BasisMark.vue'
import type { Basis, Level } from '@/api/client'
import LevelMark from '@/kit/LevelMark.vue'
import { useReference } from '@/stores/reference'

const reference = useReference()
const shown = defineModel<boolean>({ required: true })
const KEYS = [
  ['1 … 8', 'go to a station'],
  ['/', 'find a cell, a station or another conversion'],
  ['w', 'show or fold every working'],
  ['l', 'to the findings'],
  ['b', 'the logbook'],
  ['Ctrl Z', 'undo, also after a reload'],
  ['Ctrl Shift Z', 'redo'],
  ['↑ ↓', 'in a number: a step up or down'],
  ['?', 'this page'],
] as const
</script>

<template>
  <ElDialog v-model="shown" title="Keys, marks and numbers" width="min(620px, 94vw)">
    <div class="columns">
      <dl>
        <template v-for="[key, does] in KEYS" :key="key">
          <dt>
            <kbd>{{ key }}</kbd>
          </dt>
          <dd>{{ does }}</dd>
        </template>
      </dl>
      <div class="marks">
        <p v-for="level in reference.tables!.levels" :key="level.value">
          <LevelMark :level="level.value as Level" /> {{ level.label }}: {{ level.detail }}
        </p>
        <p class="gap">Where a number came from; press to change it:</p>
        <p v-for="basis in reference.tables!.bases" :key="basis.value">
          <BasisMark :basis="basis.value as Basis" /> {{ basis.detail }}
        </p>
      </div>
    </div>
    <p class="quiet">
      Numbers are read as makers write them: <code>1k2</code>, <code>400m</code>, <code>2/3</code>,
      <code>3V3</code>, <code>0,9 Ah</code>. A bare number is in the field's own unit.
      <RouterLink to="/glossary" @click="shown = false">Words of the job</RouterLink> ·
      <RouterLink to="/rules" @click="shown = false">Every check this tool makes</RouterLink>
    </p>
  </ElDialog>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
  gap: 20px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 12px;
  margin: 0;
}
dd {
  margin: 0;
}
kbd {
  padding: 1px 6px;
  border: 1px solid var(--line2);
  border-radius: 3px;
  background: var(--paper);
  font: 13px var(--mono);
  white-space: nowrap;
}
.marks p {
  display: flex;
  align-items: center;
  gap: 10px;
  margin-bottom: 6px;
}
.marks .gap {
  margin-top: 14px;
}
.quiet {
  margin-top: 16px;
}
</style>
