/** One line that says what a gadget draws and when: what the core understands of it, while it is typed. */
import { useDebounceFn } from '@vueuse/core'
import { ref, shallowRef } from 'vue'

import { api, sentenceOf, type LoadUnderstood } from '@/api/client'
import { useNewest } from '@/composables/useNewest'

const ASK_AFTER_MS = 150

/** `document`: into which the line is read; a new conversion has none yet. */
export function useLoadLine(document: () => Record<string, unknown>) {
  const reading = shallowRef<LoadUnderstood>()
  const refusal = ref('')
  const newest = useNewest()

  let asked: { line: string; answer: Promise<LoadUnderstood | undefined> } | undefined

  /** What the line is understood as; nothing where it is refused, or another was asked about meanwhile. Of one line
   * there is one question under way: whoever takes it with Enter is not set aside by its being typed a moment ago. */
  function read(line: string): Promise<LoadUnderstood | undefined> {
    if (asked?.line === line) return asked.answer
    const mine = { line, answer: understand(line).finally(() => asked === mine && (asked = undefined)) }
    asked = mine
    return mine.answer
  }

  async function understand(line: string): Promise<LoadUnderstood | undefined> {
    if (!line.trim()) {
      newest.drop()
      reading.value = undefined
      refusal.value = ''
      return undefined
    }
    const heard = await newest(api.POST('/api/questions/load', { body: { document: document(), line } }))
    if (!heard) return undefined
    reading.value = heard.data
    refusal.value = heard.data ? '' : sentenceOf(heard.error)
    return heard.data
  }

  return { reading, refusal, read, readSoon: useDebounceFn(read, ASK_AFTER_MS) }
}
