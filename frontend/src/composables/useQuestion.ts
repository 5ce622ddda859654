/** Asks the core a slower question about the open document whenever its assessment has changed and settled. */
import { watchDebounced } from '@vueuse/core'
import { shallowRef, type ShallowRef } from 'vue'

import { useConversion } from '@/stores/conversion'

type Question = ReturnType<ReturnType<typeof useConversion>['question']>

/** The newest answer; an older one that comes late is dropped, and a refusal leaves the last good one. */
export function useQuestion<T>(
  ask: (question: Question) => Promise<{ data?: T }>,
  debounce = 150,
): ShallowRef<T | undefined> {
  const conversion = useConversion()
  const answer = shallowRef<T>()
  let asked = 0
  watchDebounced(
    () => conversion.assessment,
    async (assessment) => {
      if (!assessment) return
      const mine = ++asked
      const { data } = await ask(conversion.question())
      if (mine === asked && data) answer.value = data
    },
    { debounce, immediate: true },
  )
  return answer
}
