<script setup lang="ts">
/** What the keys do, and what the marks mean. */
import BasisMark from '@/kit/BasisMark.vue'
import type { Basis, Level } from '@/api/client'
import LevelMark from '@/kit/LevelMark.vue'
import { useTour } from '@/composables/useTour'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const reference = useReference()
const tour = useTour()
const shown = defineModel<boolean>({ required: true })
function walk(): void {
  shown.value = false
  tour.begin()
}
const KEYS = [
  ['0', t('to the verdict')],
  ['1 … 8', t('go to a station')],
  ['/', t('find a cell, a station or another conversion')],
  ['w', t('show or fold every working')],
  ['l', t('to the findings')],
  ['b', t('the logbook')],
  [t('Ctrl Z'), t('undo, also after a reload')],
  [t('Ctrl Shift Z'), 'redo'],
  ['↑ ↓', t('in a number: a step up or down')],
  ['?', t('this page')],
] as const
</script>

<template>
  <ElDialog v-model="shown" title="Keys, marks and numbers" width="min(620px, 94vw)">
    <div class="grid grid-cols-[repeat(auto-fit,minmax(240px,1fr))] gap-20">
      <dl class="grid grid-cols-[auto_1fr] gap-y-6 gap-x-12 m-0">
        <template v-for="[key, does] in KEYS" :key="key">
          <dt>
            <kbd class="px-6 py-1 framed bg-paper text-small font-mono whitespace-nowrap">{{ key }}</kbd>
          </dt>
          <dd class="m-0">{{ does }}</dd>
        </template>
      </dl>
      <div>
        <p v-for="level in reference.tables!.levels" :key="level.value" class="flex items-center gap-10 mb-6">
          <LevelMark :level="level.value as Level" /> {{ level.label }}: {{ level.detail }}
        </p>
        <p class="flex items-center gap-10 mt-14 mb-6">Where a number came from; press to change it:</p>
        <p v-for="basis in reference.tables!.bases" :key="basis.value" class="flex items-center gap-10 mb-6">
          <BasisMark :basis="basis.value as Basis" /> {{ basis.detail }}
        </p>
      </div>
    </div>
    <p class="quiet mt-16">
      Numbers are read as makers write them: <code>1k2</code>, <code>400m</code>, <code>2/3</code>,
      <code>3V3</code>, <code>0,9 Ah</code>. A bare number is in the field's own unit.
      <button type="button" class="bare link-button" @click="walk">
        {{ tour.begun.value ? 'Go on with the tour' : 'A short tour' }}
      </button>
      ·
      <RouterLink to="/glossary" @click="shown = false">Words of the job</RouterLink> ·
      <RouterLink to="/rules" @click="shown = false">Every check this tool makes</RouterLink>
    </p>
  </ElDialog>
</template>
