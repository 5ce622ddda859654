/** The proposal that is looked at and those that are ticked: by what they are, for their places change while the search goes on. */
import { computed, ref, type Ref } from 'vue'

import type { Proposal } from '@/api/client'

const keyOf = (one: Proposal | undefined) => (one ? JSON.stringify([one.plan, one.edits]) : '')

/** `first`: the place of what is looked at until another is chosen. */
export function useTakenProposals(front: Ref<Proposal[]>, first: Ref<number>) {
  const lookedAt = ref('')
  const ticked = ref<string[]>([])
  const keys = computed(() => front.value.map(keyOf))

  /** Its place in the front; that of the first until one is chosen, or once that is beaten. */
  const chosen = computed(() => {
    const place = keys.value.indexOf(lookedAt.value)
    return place >= 0 ? place : first.value
  })
  const picked = computed(() =>
    ticked.value.map((key) => keys.value.indexOf(key)).filter((index) => index >= 0),
  )
  const beaten = computed(() => ticked.value.length - picked.value.length)
  const taken = computed(() =>
    (picked.value.length ? picked.value : [chosen.value]).flatMap((index) => front.value[index] ?? []),
  )

  function choose(index: number): void {
    lookedAt.value = keyOf(front.value[index])
  }
  function pick(index: number): void {
    choose(index)
    const key = lookedAt.value
    ticked.value = ticked.value.includes(key)
      ? ticked.value.filter((one) => one !== key)
      : [...ticked.value, key]
  }
  function forget(): void {
    lookedAt.value = ''
    ticked.value = []
  }
  return { chosen, picked, beaten, taken, choose, pick, forget }
}
