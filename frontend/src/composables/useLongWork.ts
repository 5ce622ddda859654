/** Long work of the server: begun, looked at while it goes on, stopped when the page is left. */
import { useEventListener } from '@vueuse/core'
import { onScopeDispose, ref, shallowRef } from 'vue'

import { sentenceOf } from '@/api/client'
import { useNewest } from '@/composables/useNewest'

interface Work {
  id: number
  state: 'running' | 'finished' | 'cancelled' | 'failed'
}
interface Answer<W> {
  data?: W
  error?: unknown
  response: Response
}
interface Asks<W> {
  look: (id: number) => Promise<Answer<W>>
  cancel: (id: number) => Promise<unknown>
  everyMs: number
}
// No server answers at the moment: it may come back, and the work with it.
const NO_ANSWER = 503

export function useLongWork<W extends Work>({ look, cancel, everyMs }: Asks<W>) {
  const work = shallowRef<W>()
  const problem = ref('')
  const newest = useNewest()
  let timer: ReturnType<typeof setTimeout> | undefined
  let left = false

  /** What went on before is stopped. The sentence of a refusal is `said`. */
  async function start(begin: () => Promise<Answer<W>>, said = sentenceOf): Promise<void> {
    await stop()
    if (left) return
    const asked = begin()
    const heard = await newest(asked)
    // Something newer was begun, or the page was left: nobody looks at this one.
    if (!heard) return void asked.then(({ data }) => data && cancel(data.id))
    problem.value = heard.error ? said(heard.error) : ''
    work.value = heard.data
    if (heard.data) lookLater(heard.data.id)
  }

  function lookLater(id: number): void {
    timer = setTimeout(async () => {
      const { data, error, response } = await look(id)
      if (work.value?.id !== id || work.value.state !== 'running') return
      problem.value = error ? sentenceOf(error) : ''
      if (data) work.value = data
      else if (response.status !== NO_ANSWER) work.value = { ...work.value, state: 'cancelled' }
      if (work.value.state === 'running') lookLater(id)
    }, everyMs)
  }

  async function stop(): Promise<void> {
    clearTimeout(timer)
    if (work.value?.state !== 'running') return
    const { id } = work.value
    work.value = { ...work.value, state: 'cancelled' }
    await cancel(id)
  }

  // Reloaded or closed: nobody looks any more.
  useEventListener(window, 'pagehide', () => void stop())
  onScopeDispose(() => {
    left = true
    void stop()
  })
  return { work, problem, start, stop }
}
