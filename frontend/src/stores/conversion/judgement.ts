/** What the core says of the document as it stands on screen: asked with every change, the latest answer counts. */
import { useTimeoutFn } from '@vueuse/core'
import { computed, reactive, ref, shallowRef, watch } from 'vue'

import { api, sentenceOf, type Assessment, type RefusedField } from '@/api/client'
import { useNewest } from '@/composables/useNewest'
import { useUnits } from '@/composables/useUnits'
import { canonical } from '@/document'
import type { Screen } from '@/stores/conversion/screen'
import { keepRefused } from '@/stores/refusedTexts'

const TRY_AGAIN_MS = 3000

export type Judgement = ReturnType<typeof useJudgement>

export function useJudgement(screen: Screen) {
  const assessment = shallowRef<Assessment>()
  const refused = ref<Record<string, string>>({})
  /** Questions whose newest asking has no answer: what is shown of them is of an earlier state. */
  const unanswered = reactive(new Set<symbol>())
  const stale = computed(() => unanswered.size > 0)
  const assessing = Symbol('assess')
  const newest = useNewest()

  /** A plain copy of the document with half-typed text and all, and which build is meant. */
  function question() {
    const { stored, buildIndex } = screen
    return { document: screen.copy(), project_id: stored.value?.id, build: String(buildIndex.value) }
  }

  async function look(): Promise<void> {
    const heard = await newest(api.POST('/api/questions/assess', { body: question() }))
    if (!heard) return
    const { data, error } = heard
    noteAnswer(assessing, Boolean(data))
    if (data) {
      assessment.value = data.assessment
      note(data.refused)
      screen.problem.value = ''
    } else {
      screen.problem.value = sentenceOf(error)
      lookAgain()
    }
  }
  const { start: lookAgain } = useTimeoutFn(() => void look(), TRY_AGAIN_MS, { immediate: false })
  screen.onLook(() => void look())
  screen.onShown(() => (refused.value = {}))

  // What it says is in the units of this device.
  const units = useUnits()
  watch([units.length, units.temperature, units.decimals], () => void (screen.document.value && look()))

  function noteAnswer(question: symbol, answered: boolean): void {
    if (answered) unanswered.delete(question)
    else unanswered.add(question)
  }

  function note(fields: readonly RefusedField[]): void {
    refused.value = Object.fromEntries(fields.map(({ field, sentence }) => [field, sentence]))
    const { stored, document } = screen
    if (stored.value)
      keepRefused(stored.value.id, Object.keys(refused.value), document.value, stored.value.project)
  }

  /** What was said was of another conversion. */
  function forget(): void {
    assessment.value = undefined
  }

  /** Why the core refuses what stands at this place, or inside it. */
  function refusalAt(path: string, inside = false): string | undefined {
    const place = canonical(screen.document.value, path)
    const found = refused.value[place]
    if (found || !inside) return found
    return Object.entries(refused.value).find(([field]) => field.startsWith(`${place}.`))?.[1]
  }

  return { assessment, refused, stale, question, noteAnswer, refusalAt, forget }
}
