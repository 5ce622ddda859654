/** The tables, labels and parts of the trade, fetched once. */
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'

import { api, type Choice, type Part, type Trade } from '@/api/client'

export const useTrade = defineStore('trade', () => {
  const tables = shallowRef<Trade>()
  const parts = shallowRef<Part[]>([])

  async function load(): Promise<void> {
    if (tables.value) return
    const [trade, library] = await Promise.all([api.GET('/api/trade'), api.GET('/api/parts')])
    tables.value = trade.data
    parts.value = library.data ?? []
  }

  const cells = computed(() => parts.value.filter((part) => part.kind === 'cell'))
  const boards = (kind: Part['kind']) => parts.value.filter((part) => part.kind === kind)
  const labelOf = (choices: Choice[] | undefined, value: string) =>
    choices?.find((choice) => choice.value === value)?.label ?? value

  return { tables, parts, cells, boards, labelOf, load }
})
