<script setup lang="ts">
/** As built beside as planned: every figure that was both predicted and measured. */
import type { BuiltReply } from '@/api/client'

defineProps<{ figures: BuiltReply['as_built'] }>()
const off = (share: number) => {
  const percent = Math.round(Math.abs(share) * 100)
  return percent === 0 ? '0 %' : `${share > 0 ? '+' : '−'}${percent} %`
}
</script>

<template>
  <section v-if="figures.length" aria-label="As built">
    <h2 class="mx-0 mt-18 mb-4">As built, beside as planned</h2>
    <table class="ruled">
      <thead>
        <tr>
          <th></th>
          <th class="number">planned</th>
          <th class="number">measured</th>
          <th class="number">off</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="figure in figures" :key="figure.what">
          <td>{{ figure.what }}</td>
          <td class="number">{{ figure.planned }}</td>
          <td class="number">{{ figure.built }}</td>
          <td class="number">{{ off(figure.off_share) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
