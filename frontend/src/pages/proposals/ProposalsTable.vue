<script setup lang="ts">
/** The proposals, a row each. Rows and columns keep their sizes, so that nothing jumps while better ones are found. */
import type { Proposal } from '@/api/client'
import { useMoney } from '@/composables/useMoney'
import BayThumb from '@/drawings/BayThumb.vue'
import { t } from '@/words'

defineProps<{
  front: Proposal[]
  mode: string
  chosen: number
  picked: number[]
  /** The builds of this conversion that each is already, by its place. */
  takenAs: (string | undefined)[]
}>()
const emit = defineEmits<{ choose: [index: number]; pick: [index: number] }>()

const money = useMoney()
const COLUMNS = [
  { label: '', px: 40 },
  { label: t('in the bay'), px: 66 },
  { label: t('because'), px: 98 },
  { label: t('cell and boards') },
  { label: '', px: 62 },
  { label: t('full in'), px: 56 },
  { label: t('work'), px: 64 },
  { label: t('off, lasts'), px: 72 },
  { label: t('to spare'), px: 70 },
  { label: t('cautions'), px: 64 },
  { label: t('price'), px: 44 },
]
const FIRST_FIGURE = 4
const letter = (one: Proposal, index: number) => (one.because ? String.fromCharCode(65 + index) : '')
</script>

<template>
  <div class="h-430 overflow-auto" tabindex="0" role="region" aria-label="Proposals">
    <table class="ruled table-fixed min-w-776">
      <thead>
        <tr>
          <th
            v-for="(column, index) in COLUMNS"
            :key="index"
            class="sticky top-0 z-1 bg-paper truncate"
            :class="{ number: index >= FIRST_FIGURE }"
            :width="column.px"
          >
            {{ index === FIRST_FIGURE ? mode : column.label }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(one, index) in front"
          :key="index"
          class="h-100 current:bg-copperwash"
          :class="{ 'is-current': index === chosen }"
          @click="emit('choose', index)"
        >
          <td class="whitespace-nowrap">
            <input
              :id="`pick${index}`"
              type="checkbox"
              :checked="picked.includes(index)"
              :aria-label="`Take number ${index + 1}`"
              @focus="emit('choose', index)"
              @change="emit('pick', index)"
            />
            <b>{{ letter(one, index) }}</b>
          </td>
          <td><BayThumb :picture="one.picture" aria-hidden="true" /></td>
          <td>
            <label :for="`pick${index}`" class="flex items-center min-h-(--target)">
              <span class="line-clamp-4">
                {{ one.because || 'one of many' }}
                <small v-if="takenAs[index]" class="block text-pass">taken as “{{ takenAs[index] }}”</small>
                <small v-if="one.otherwise" class="block quiet">{{ one.otherwise }}</small>
              </span>
            </label>
          </td>
          <td>
            <span class="line-clamp-2">{{ one.cell }}</span>
            <small class="line-clamp-3 quiet">{{ [one.charger, ...one.others].join(' + ') }}</small>
          </td>
          <td class="number">
            {{ one.hours.text }}
            <small v-if="one.light_half" class="block quiet">{{ one.light_half.text }} light</small>
            <small v-if="one.serves" class="block quiet">serves {{ one.serves }}</small>
          </td>
          <td class="number">{{ one.full_h.text }}</td>
          <td class="number">
            {{ one.joints }} joints
            <span class="block">{{ one.holes || 'no' }} {{ one.holes > 1 ? 'holes' : 'hole' }}</span>
          </td>
          <td class="number">{{ one.off_days.text }}</td>
          <td class="number">{{ one.spare_mm?.text ?? 'not known' }}</td>
          <td class="number">{{ one.cautions.length || 'none' }}</td>
          <td class="number">{{ money(one.price) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.ruled :is(th, td) {
  padding-right: 6px;
}
input {
  margin: 0 4px 0 0;
  vertical-align: -1px;
}
</style>
