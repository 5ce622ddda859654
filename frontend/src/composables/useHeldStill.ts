/** What is shown of something that goes on changing: as it was while the pointer is on it, or a row would move away. */
import { useElementHover, useMediaQuery } from '@vueuse/core'
import { computed, shallowRef, watch, type Ref } from 'vue'

export function useHeldStill<Shown>(now: Readonly<Ref<Shown | undefined>>, under: Ref<HTMLElement | null>) {
  const isUnderPointer = useElementHover(under)
  // A finger that has left still counts as hovering.
  const hasPointer = useMediaQuery('(hover: hover)')
  const isHeld = computed(() => hasPointer.value && isUnderPointer.value)
  const shown = shallowRef(now.value)
  watch([now, isHeld], ([latest, held]) => {
    if (!held || !latest || !shown.value) shown.value = latest
  })
  /** Something newer waits until the pointer is gone. */
  const isBehind = computed(() => shown.value !== now.value)
  return { shown, isBehind }
}
