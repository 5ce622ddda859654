/** What is wished of the proposals of one conversion: kept for this window, so that a reload finds it again. */
import { useSessionStorage } from '@vueuse/core'

import type { Wishes } from '@/api/client'

export interface SetWishes {
  switched: Record<string, boolean>
  figures: Record<string, string>
}

export const useWishes = (id: number) =>
  useSessionStorage<SetWishes>(`wishes-of-${id}`, { switched: {}, figures: {} })

/** As the search is asked: chips that are on, and figures that something stands in. */
export function wishesOf({ switched, figures }: SetWishes): Wishes {
  const on = Object.entries(switched).filter(([, isOn]) => isOn)
  const written = Object.entries(figures).filter(([, text]) => text.trim() !== '')
  return Object.fromEntries([...on, ...written]) as Wishes
}
