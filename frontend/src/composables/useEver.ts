/** True from the first time on: what opens over a page is made only then. */
import { ref, watch, type Ref } from 'vue'

export function useEver(now: Ref<boolean>): Readonly<Ref<boolean>> {
  const ever = ref(now.value)
  watch(now, () => (ever.value = true), { once: true })
  return ever
}
