/** The tables, labels and parts of the reference, fetched once. */
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'

import { api, type Choice, type Part, type ReferenceTables } from '@/api/client'

export const useReference = defineStore('reference', () => {
  const tables = shallowRef<ReferenceTables>()
  const parts = shallowRef<Part[]>([])

  async function load(): Promise<void> {
    if (tables.value) return
    const [reference, library] = await Promise.all([api.GET('/api/reference'), api.GET('/api/parts')])
    tables.value = reference.data
    parts.value = library.data ?? []
  }

  const cells = computed(() => parts.value.filter((part) => part.kind === 'cell'))
  const boards = (kind: Part['kind']) => parts.value.filter((part) => part.kind === kind)
  const labelOf = (choices: Choice[] | undefined, value: string) =>
    choices?.find((choice) => choice.value === value)?.label ?? value

  return { tables, parts, cells, boards, labelOf, load }
})
