/** What the core says of the bay while something is held in the hand: one question at a time, of its latest place. */
import { useTimeoutFn } from '@vueuse/core'
import { shallowRef } from 'vue'

import { api, type FitReply, type Project } from '@/api/client'
import { useConversion } from '@/stores/conversion'

export interface Held {
  what: string
  at: readonly number[]
  size: readonly number[]
}

// Let go, it counts until the answer about where it was put has come.
const KEPT_MS = 500

export function useWhileHeld(put: (document: Project, held: Held) => void) {
  const conversion = useConversion()
  const reply = shallowRef<FitReply>()
  const { start: forget, stop: keep } = useTimeoutFn(() => (reply.value = undefined), KEPT_MS, {
    immediate: false,
  })
  let latest: Held | undefined
  let asking = false

  async function hold(held: Held | undefined): Promise<void> {
    latest = held
    if (!held) forget()
    if (!held || asking) return
    keep()
    asking = true
    for (let asked: Held | undefined; latest && latest !== asked;) {
      asked = latest
      const body = conversion.question()
      put(body.document as unknown as Project, asked)
      const { data } = await api.POST('/api/questions/fit', { body })
      if (latest && data) reply.value = data
    }
    asking = false
  }

  return { reply, hold }
}
