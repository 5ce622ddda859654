/** Whether gadget, build and own parts are still those that something long was asked of; if not, it is asked anew once
 * typing has paused. */
import { watchDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import { useConversion } from '@/stores/conversion'

export function useAskedOf(askAnew: () => void) {
  const conversion = useConversion()
  const asked = ref('')
  const otherParts = ref(false)
  const now = computed(() =>
    JSON.stringify([conversion.document?.gadget, { ...conversion.build, name: '', record: null }]),
  )
  watch(
    () => conversion.elsewhere.parts,
    (_, before) => (otherParts.value ||= !!before),
  )
  const isOld = computed(() => asked.value !== '' && (otherParts.value || asked.value !== now.value))
  watchDebounced(isOld, (old) => old && askAnew(), { debounce: 600 })

  function note(): void {
    asked.value = now.value
    otherParts.value = false
  }
  return { isOld, note }
}
