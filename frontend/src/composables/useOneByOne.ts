/** Parts of a large page, each made in a task of its own: between two of them the browser paints and takes a click. */
import { onScopeDispose, ref, watch, type Ref, type WatchSource } from 'vue'

/** How many of the parts may be made by now; they begin anew when what they wait for goes. */
export function useOneByOne(ready: WatchSource<unknown>, parts: number): Ref<number> {
  const made = ref(0)
  let next: ReturnType<typeof setTimeout> | undefined
  function go(): void {
    made.value += 1
    if (made.value < parts) next = setTimeout(go)
  }
  watch(
    ready,
    (now) => {
      clearTimeout(next)
      made.value = 0
      if (now) next = setTimeout(go)
    },
    { immediate: true },
  )
  onScopeDispose(() => clearTimeout(next))
  return made
}
