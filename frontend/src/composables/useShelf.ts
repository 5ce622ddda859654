/** What of the shelf is shown, and in which order: by words, stage and tag. */
import { useStorage } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'

import type { ProjectLine } from '@/api/client'

export const ORDERS = {
  touched: 'last touched',
  name: 'by name',
  stage: 'furthest first',
} as const
type Order = keyof typeof ORDERS

export function useShelf(lines: Ref<ProjectLine[] | undefined>, stages: Ref<string[]>) {
  const words = ref('')
  const stage = ref('')
  const order = useStorage<Order>('shelf-order', 'touched')

  const compare: Record<Order, (one: ProjectLine, other: ProjectLine) => number> = {
    touched: () => 0, // as the server sends them
    name: (one, other) => one.name.localeCompare(other.name),
    stage: (one, other) => place(other) - place(one),
  }
  const place = (line: ProjectLine) => stages.value.indexOf(line.summary?.stage ?? '')

  function matches(line: ProjectLine): boolean {
    const text = [line.name, line.summary?.supply, line.summary?.headline, ...(line.summary?.tags ?? [])]
    const has = text.join(' ').toLowerCase()
    return words.value
      .toLowerCase()
      .split(/\s+/)
      .every((word) => has.includes(word))
  }

  const counts = computed(() => {
    const by: Record<string, number> = {}
    for (const line of lines.value ?? []) {
      const key = line.summary?.stage ?? ''
      by[key] = (by[key] ?? 0) + 1
    }
    return by
  })
  const shown = computed(() =>
    (lines.value ?? [])
      .filter((line) => (!stage.value || line.summary?.stage === stage.value) && matches(line))
      .sort(compare[order.value]),
  )
  return { words, stage, order, counts, shown }
}
