/** The tables, labels and parts of the trade, fetched once. */
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'

import {
  api,
  type Choice,
  type GlossaryTerm,
  type Guide,
  type Part,
  type ReferenceTables,
} from '@/api/client'

const TRY_AGAIN_MS = 2000

export const useReference = defineStore('reference', () => {
  const tables = shallowRef<ReferenceTables>()
  const parts = shallowRef<Part[]>([])

  async function load(): Promise<void> {
    if (tables.value) return
    const [reference, library] = await Promise.all([api.GET('/api/reference'), api.GET('/api/parts')])
    parts.value = library.data ?? []
    tables.value = reference.data
    if (!reference.data || !library.data) setTimeout(() => void load(), TRY_AGAIN_MS)
  }

  /** How to measure what settles a finding, with its picture: fetched when the first is asked for. */
  const guides = shallowRef<Guide[]>([])
  async function loadGuides(): Promise<void> {
    if (!guides.value.length) guides.value = (await api.GET('/api/guides')).data ?? []
  }

  const cells = computed(() => parts.value.filter((part) => part.kind === 'cell'))
  const boards = (kind: Part['kind']) => parts.value.filter((part) => part.kind === kind)
  const labelOf = (choices: Choice[] | undefined, value: string) =>
    choices?.find((choice) => choice.value === value)?.label ?? value

  /** The word of the trade that the label of this place uses, if any. */
  function termOf(path: string): GlossaryTerm | undefined {
    const field = path.split('.').pop()!
    return tables.value?.glossary.find((term) => term.fields.includes(field))
  }

  /** The guide that shows how to measure what stands at this place, if any. */
  const guideOf = (path: string) => tables.value?.measured_by[path.split('.').pop()!]

  return { tables, parts, cells, boards, labelOf, termOf, guideOf, guides, loadGuides, load }
})
