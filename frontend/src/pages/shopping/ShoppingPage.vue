<script setup lang="ts">
/** What is still to buy for a build: the words to search by, what to look for, what to leave; to print or to save. */
import { computed, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import { api, sentenceOf, type ShoppingList } from '@/api/client'
import ExportLinks from '@/components/ExportLinks.vue'
import ShoppingLines from '@/pages/shopping/ShoppingLines.vue'
import { useNewest } from '@/composables/useNewest'
import { useMoney } from '@/composables/useMoney'
import PageFrame from '@/kit/PageFrame.vue'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const props = defineProps<{ id: number; build: number }>()
const conversion = useConversion()
const router = useRouter()
const list = shallowRef<ShoppingList>()
const problem = shallowRef('')
const name = computed(() => conversion.document?.builds[props.build]?.name ?? '')
const print = () => window.print()

const newest = useNewest()
watch(
  () => [props.id, props.build, conversion.stored?.revision, conversion.elsewhere.parts],
  async () => {
    if (conversion.stored?.id !== props.id && !(await conversion.open(props.id)))
      return void router.replace('/')
    conversion.choose(props.build)
    document.title = t('Shopping list · {name}', { name: conversion.document?.gadget.name ?? '' })
    const body = conversion.question()
    const heard = await newest(api.POST('/api/questions/sheet/shopping', { body }))
    if (!heard) return
    const { data, error } = heard
    list.value = data
    problem.value = error ? sentenceOf(error) : ''
  },
  { immediate: true },
)

const money = useMoney()
</script>

<template>
  <PageFrame
    title="Shopping list"
    :back="conversion.document?.gadget.name"
    :to="`/conversion/${id}/build`"
    :width="980"
  >
    <p class="quiet">{{ conversion.document?.gadget.name }}, {{ name }}</p>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <template v-if="list">
      <div class="no-print flex items-center gap-14">
        <ElButton @click="print">Print</ElButton>
        <ExportLinks page="shopping" />
      </div>
      <p v-if="!list.to_buy.length">Everything that this build needs lies among your parts.</p>
      <ShoppingLines v-else :lines="list.to_buy" />
      <p v-if="list.price" class="mt-8 text-right">
        some {{ money(list.price) }} for what has a price here, without postage
      </p>
      <template v-if="list.there.length">
        <h2 class="mx-0 mt-18 mb-4 text-ink">Among your parts already</h2>
        <ul>
          <li v-for="line in list.there" :key="line.part">{{ line.pieces }} x {{ line.part }}</li>
        </ul>
      </template>
      <h2 class="mx-0 mt-18 mb-4 text-ink">Its steps use up</h2>
      <ul class="tick">
        <li v-for="what in list.consumables" :key="what">{{ what }}</li>
      </ul>
      <h2 class="mx-0 mt-18 mb-4 text-ink">Its steps are done with</h2>
      <ul class="tick">
        <li v-for="what in list.tools" :key="what">{{ what }}</li>
      </ul>
    </template>
  </PageFrame>
</template>

<style scoped>
.tick {
  columns: 2;
  list-style: '□ ';
}
</style>
