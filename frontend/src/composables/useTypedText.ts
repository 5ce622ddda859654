/** A text that is taken when its field is left: what is typed stays while the document is saved, or comes anew. */
import { computed, ref, type MaybeRefOrGetter, toValue } from 'vue'

import { valueAt } from '@/document'
import { useConversion } from '@/stores/conversion'

export function useTypedText(path: MaybeRefOrGetter<string>) {
  const conversion = useConversion()
  const typed = ref<string>()
  const text = computed(() => {
    const value = valueAt(conversion.document, toValue(path))
    return typed.value ?? (typeof value === 'string' ? value : '')
  })

  const type = (event: Event) => (typed.value = (event.target as HTMLInputElement).value)
  function settle(): void {
    if (typed.value !== undefined) conversion.edit(toValue(path), typed.value)
    typed.value = undefined
  }
  return { text, type, settle }
}
