/** How wide a box is, known before it is first painted: a drawing that waited for it would push aside what is below. */
import { useResizeObserver } from '@vueuse/core'
import { onMounted, shallowRef, type Ref, type ShallowRef } from 'vue'

export function useWidth(box: Ref<HTMLElement | undefined>): ShallowRef<number> {
  const width = shallowRef(0)
  const measure = () => (width.value = box.value?.clientWidth ?? 0)
  onMounted(measure)
  useResizeObserver(box, measure)
  return width
}
