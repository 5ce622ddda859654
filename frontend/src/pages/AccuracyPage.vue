<script setup lang="ts">
/** How far the tool's own predictions were off, over all builds that were measured to their end. */
import { onMounted, shallowRef } from 'vue'

import { api, type PredictionErrors } from '@/api/client'
import PageFrame from '@/kit/PageFrame.vue'
import { t } from '@/words'

const errors = shallowRef<PredictionErrors>()
onMounted(async () => {
  document.title = t('How far off · Pocket Spark')
  errors.value = (await api.GET('/api/accuracy')).data
})

/** A quarter too much or too little fills half of the scale. */
const MOST = 0.5
const place = (off: number) => `${(50 + (50 * Math.max(-MOST, Math.min(off, MOST))) / MOST).toFixed(1)}%`
</script>

<template>
  <PageFrame title="How far its figures were off" back="what is checked" to="/rules">
    <p class="quiet">
      Every figure that was predicted at the first cut and measured later, in builds that are proven or
      finished with reservations. Practice copies do not count.
    </p>
    <template v-if="errors">
      <h2 class="mx-0 mt-14 mb-6 text-head text-ink">{{ errors.headline }}</h2>
      <p v-if="errors.kinds.length" class="m-0">
        <a class="link-button" href="/api/accuracy/errors.csv" download>Save as CSV</a>
      </p>
      <table v-if="errors.kinds.length" class="ruled mt-10 w-full">
        <thead>
          <tr>
            <th>figure</th>
            <th class="number">builds</th>
            <th class="number">usually off by</th>
            <th class="number">on the whole</th>
            <th class="number">worst</th>
            <th class="narrow:hidden">measured, less · as planned · more</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="kind in errors.kinds" :key="kind.what">
            <td>{{ kind.what }}</td>
            <td class="number">{{ kind.count }}</td>
            <td class="number">{{ kind.usual }}</td>
            <td class="number">{{ kind.bias }}</td>
            <td class="number">{{ kind.worst }}</td>
            <td class="narrow:hidden">
              <span
                class="block relative min-w-180 h-18 border-b border-line2"
                role="img"
                :aria-label="kind.close"
              >
                <b class="absolute left-1/2 top-0 w-1 h-18 bg-ink3" />
                <i
                  v-for="(one, n) in kind.errors"
                  :key="n"
                  class="absolute bottom-2 w-8 h-8 -ml-4 border border-copper rounded-full bg-paper"
                  :style="{ left: place(one.off_share) }"
                  :title="`${one.gadget}: ${one.planned} planned, ${one.measured} measured`"
                />
              </span>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="quiet">
        Nothing yet. Finish a build with its checkpoints read, and its figures stand here.
      </p>
    </template>
  </PageFrame>
</template>
