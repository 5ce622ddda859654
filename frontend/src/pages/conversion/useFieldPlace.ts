/** Where a field of the document stands, and the way there. */
import { nextTick } from 'vue'
import { useRouter } from 'vue-router'

import { canonical } from '@/document'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

/** So often is a station that is still being loaded looked at again. */
const LOOKS = 40
const APART_MS = 50

export function useFieldPlace() {
  const router = useRouter()
  const conversion = useConversion()
  const reference = useReference()

  /** Fields name their rows by number or by id. */
  function fieldAt(place: string): HTMLElement | undefined {
    const fields = document.querySelectorAll<HTMLElement>('[data-path]')
    return [...fields].find((field) => canonical(conversion.document, field.dataset.path!) === place)
  }

  async function toField(place: string): Promise<void> {
    const station = reference.tables?.places.find(({ part }) => place.includes(part))?.station ?? 'survey'
    await router.push(`/conversion/${conversion.stored?.id}/${station}`)
    for (let look = 0; look < LOOKS; look++) {
      await nextTick()
      const field = fieldAt(place)
      if (field) {
        field.scrollIntoView({ block: 'center' })
        field.focus()
        return
      }
      await new Promise((resolve) => setTimeout(resolve, APART_MS))
    }
  }

  return { toField }
}
