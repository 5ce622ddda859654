/** What of the shelf is shown, and in which order: by words, stage and tag. The server looks, page by page. */
import { refDebounced, useStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import { useProjects, type Order } from '@/stores/projects'
import { t } from '@/words'

export const ORDERS: Record<Order, string> = {
  touched: t('last touched'),
  name: t('by name'),
  stage: t('furthest first'),
}
const TYPING_MS = 80

export function useShelf() {
  const projects = useProjects()
  const words = ref('')
  const typed = refDebounced(words, TYPING_MS)
  const stage = ref('')
  const away = ref(false)
  const order = useStorage<Order>('shelf-order', 'touched')

  const sieve = computed(() => ({
    words: typed.value,
    stage: stage.value,
    order: order.value,
    archived: away.value,
  }))
  watch(sieve, (wanted) => void projects.show(wanted), { immediate: true })

  /** All of them, those of one stage, or those in the archive. */
  function show(which: string): void {
    away.value = which === 'archived'
    stage.value = away.value ? '' : which
  }
  return { words, stage, away, order, show }
}
