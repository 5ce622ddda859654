/** Asks the core a slower question about the open document whenever its assessment has changed and settled. */
import { useTimeoutFn, watchDebounced } from '@vueuse/core'
import { onScopeDispose, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue'

import { useNewest } from '@/composables/useNewest'
import { useConversion } from '@/stores/conversion'

type Question = ReturnType<ReturnType<typeof useConversion>['question']>
const TRY_AGAIN_MS = 3000

/** Asked once typing has paused, so that it never competes with the next keystroke.
 *
 * The newest answer; null where the core refuses to answer, undefined until it has been heard. An older one that comes
 * late is dropped. While the server fails, the last one stays, the conversion counts as stale, and the question is
 * asked again. `late`: what it answered is of an earlier state, and what is drawn of it is to be dimmed. */
export function useQuestion<T>(
  ask: (question: Question) => Promise<{ data?: T; response: Response } | undefined>,
  debounce = 400,
): ShallowRef<T | null | undefined> & { late: Ref<boolean> } {
  const conversion = useConversion()
  const answer = shallowRef<T | null>()
  const late = ref(false)
  const mark = Symbol('question')
  const newest = useNewest()

  async function askNow(): Promise<void> {
    const heard = await newest(ask(conversion.question()).then((reply) => ({ reply })))
    if (!heard) return
    const failed = (heard.reply?.response.status ?? 200) >= 500
    conversion.noteAnswer(mark, !failed)
    if (failed) return askAgain()
    answer.value = heard.reply?.data ?? null
    late.value = false
  }
  const { start: askAgain, stop } = useTimeoutFn(() => void askNow(), TRY_AGAIN_MS, { immediate: false })

  // Who comes to a station has paused already.
  if (conversion.assessment) void askNow()
  watch(
    () => conversion.assessment,
    () => (late.value = answer.value !== undefined),
    { flush: 'sync' },
  )
  watchDebounced(
    () => conversion.assessment,
    (assessment) => void (assessment && askNow()),
    { debounce },
  )
  // Own parts are behind many an answer; whoever changed them, it is asked anew.
  watch(
    () => conversion.elsewhere.parts,
    (_, before) => void (before && askNow()),
  )
  onScopeDispose(() => {
    stop()
    conversion.noteAnswer(mark, true)
  })
  return Object.assign(answer, { late })
}
