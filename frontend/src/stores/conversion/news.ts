/** What other devices have saved: shown as it comes, as long as nothing here waits to be saved and nobody types. */
import { useEventListener, useIntervalFn, useTimeoutFn } from '@vueuse/core'
import { ref } from 'vue'

import { api, sentenceOf } from '@/api/client'
import type { Judgement } from '@/stores/conversion/judgement'
import type { Saving } from '@/stores/conversion/saving'
import type { Screen } from '@/stores/conversion/screen'
import { t } from '@/words'

const NEWS_EVERY_MS = 2000
const NEWS_TOLD_MS = 6000
const STILL_TYPING_MS = 4000
const PUT_AWAY = t(
  'This conversion was put into the archive. Restore it there; until then nothing is saved here.',
)

export function useNews(screen: Screen, judgement: Judgement, saving: Saving) {
  const { stored, problem, unsaved } = screen
  /** A moment ago changes of another device were taken in. */
  const news = ref(false)
  /** Each another text whenever photographs, or own parts, have changed, whoever changed them. */
  const elsewhere = ref({ photos: '', parts: '' })
  const { start: forgetNews } = useTimeoutFn(() => (news.value = false), NEWS_TOLD_MS, { immediate: false })
  /** Nobody's figures change under their hands: news waits while somebody types. */
  const { isPending: typing, start: typed } = useTimeoutFn(() => undefined, STILL_TYPING_MS, {
    immediate: false,
  })
  useEventListener(window, 'input', typed, { capture: true })

  async function lookForNews(): Promise<void> {
    if (!stored.value || unsaved.value || saving.conflict.value || typing.value) return
    const { id, revision } = stored.value
    const params = { params: { path: { project_id: id } } }
    const { data: present, error, response } = await api.GET('/api/projects/{project_id}/revision', params)
    if (response.status === 404) problem.value = sentenceOf(error)
    if (!present) return
    if (present.archived) problem.value = PUT_AWAY
    else if (problem.value === PUT_AWAY) problem.value = ''
    elsewhere.value = { photos: `${id} ${present.photos}`, parts: present.parts }
    if (present.revision !== revision) await takeIn(id, revision)
  }

  async function takeIn(id: number, revision: number): Promise<void> {
    const sent = screen.edits()
    const { data } = await saving.fetchStored()
    const isSame = stored.value?.id === id && stored.value.revision === revision && screen.edits() === sent
    if (!data || !isSame || typing.value) return
    const fields = Object.keys(judgement.refused.value).map((field) => ({ field }))
    saving.accept(data, fields, sent)
    news.value = true
    forgetNews()
    screen.look()
  }
  useIntervalFn(() => void lookForNews(), NEWS_EVERY_MS)

  return { news, elsewhere }
}
