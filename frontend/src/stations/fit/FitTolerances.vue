<script setup lang="ts">
/** What carries each part, and what is left where all measures are off the bad way. */
import type { FitAnswer } from '@/api/client'
import { useUnits } from '@/composables/useUnits'
import { t } from '@/words'

const { lengthText } = useUnits()
defineProps<{ answer: FitAnswer }>()

type Stands = NonNullable<FitAnswer['stands']>[number]
const carried = ({ part, on, foam_mm }: Stands) =>
  foam_mm > 0
    ? t('{part}: {foam} of foam on {on}', { part, on, foam: lengthText(foam_mm) })
    : t('{part}: on {on}', { part, on })
const AXES: Record<string, string> = { length: t('length'), width: t('width'), height: t('height') }
</script>

<template>
  <div class="flex flex-wrap items-start gap-x-40 gap-y-6 [&>*]:flex-1 [&>*]:min-w-260">
    <div v-if="answer.stands?.length && answer.fits !== 'no' && answer.fits !== 'not_settled'">
      <h2 class="mx-0 mt-10 mb-4">What carries it</h2>
      <ul class="m-0 p-0 list-none">
        <li v-for="one in answer.stands" :key="one.part" class="px-0 py-2">
          {{ carried(one) }}
          <span v-if="one.under_lid_mm" class="quiet">{{ lengthText(one.under_lid_mm) }} under the lid</span>
        </li>
      </ul>
    </div>
    <div v-if="answer.chains?.length">
      <h2 class="mx-0 mt-10 mb-4">If measures are off</h2>
      <p class="quiet small mt-0 mb-2">Left in a row, with bay, cell and boards off by their tolerances</p>
      <table class="chains w-full text-small">
        <thead>
          <tr>
            <th scope="col" class="text-left">Along</th>
            <th scope="col" class="text-right">by measure</th>
            <th scope="col" class="text-right">likely</th>
            <th scope="col" class="text-right">at the worst</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="chain in answer.chains" :key="chain.axis" :title="chain.parts.join(', ')">
            <th scope="row" class="text-left font-normal">{{ AXES[chain.axis] }}</th>
            <td v-for="mm in [chain.spare_mm, chain.likely_mm, chain.worst_mm]" :key="mm" class="text-right">
              <span :class="{ 'text-caution font-semibold': mm < 0 }">{{ lengthText(mm) }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>
