/** Of several answers to one kind of question, the one to what was asked last: an older one that comes late is none. */
import { tryOnScopeDispose } from '@vueuse/core'

export interface Newest {
  /** What was answered; nothing where something newer was asked meanwhile, or the page was left. */
  <T>(answer: Promise<T>): Promise<T | undefined>
  /** What is still under way counts no more. */
  drop: () => void
}

export function useNewest(): Newest {
  let asked = 0
  async function newest<T>(answer: Promise<T>): Promise<T | undefined> {
    const mine = ++asked
    const heard = await answer
    return mine === asked ? heard : undefined
  }
  newest.drop = () => void (asked += 1)
  tryOnScopeDispose(newest.drop)
  return newest
}
