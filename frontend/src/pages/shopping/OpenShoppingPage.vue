<script setup lang="ts">
/** One list for everything that is not begun: a part of several conversions stands once, and own parts count once. */
import { onMounted, ref, shallowRef } from 'vue'

import { api, sentenceOf, type OpenShopping } from '@/api/client'
import ShoppingLines from '@/pages/shopping/ShoppingLines.vue'
import { useMoney } from '@/composables/useMoney'
import PageFrame from '@/kit/PageFrame.vue'
import { t } from '@/words'

const list = shallowRef<OpenShopping>()
const problem = ref('')
const money = useMoney()
const print = () => window.print()
onMounted(async () => {
  document.title = t('What to buy for all · Pocket Spark')
  const { data, error } = await api.GET('/api/drawer/shopping')
  list.value = data
  problem.value = error ? sentenceOf(error) : ''
})
</script>

<template>
  <PageFrame title="What to buy for all" :width="980">
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <p v-if="!list && !problem" class="quiet">Every conversion that is not begun is looked at.</p>
    <template v-if="list">
      <p v-if="list.price || list.to_buy.length" class="mt-8">
        <b>{{ list.to_buy.length }} {{ list.to_buy.length === 1 ? 'part' : 'different parts' }}</b
        ><template v-if="list.price"
          >, some <b>{{ money(list.price) }}</b> for what has a price here, without postage</template
        >.
      </p>
      <p v-else>Everything that is planned lies among your parts, or nothing is planned.</p>
      <p v-if="list.left_out.length" class="quiet">
        Without a cell yet, and not counted: {{ list.left_out.join(', ') }}.
      </p>
      <ElButton class="no-print mt-8" @click="print">Print</ElButton>
      <ShoppingLines :lines="list.to_buy" />
      <template v-if="list.there.length">
        <h2 class="mx-0 mt-18 mb-4 text-ink">Among your parts already</h2>
        <ul>
          <li v-for="line in list.there" :key="line.part">
            {{ line.pieces }} x {{ line.part }}
            <span class="quiet">for {{ line.wanted_by?.join(', ') }}</span>
          </li>
        </ul>
      </template>
    </template>
  </PageFrame>
</template>
