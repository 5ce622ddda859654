/** The search for builds: started anew with every wish, looked at while it goes on, stopped when the page is left. */
import { onUnmounted, ref } from 'vue'

import { api, sentenceOf, type Problem, type ProposalSearch, type Wishes } from '@/api/client'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

const LOOK_EVERY_MS = 300

export function useProposals() {
  const conversion = useConversion()
  const reference = useReference()
  const search = ref<ProposalSearch>()
  const problem = ref('')
  let timer: ReturnType<typeof setTimeout> | undefined

  async function start(wishes: Wishes): Promise<void> {
    await stop()
    const body = { ...conversion.question(), wishes }
    const { data, error } = await api.POST('/api/questions/proposals', { body })
    problem.value = error ? said(error) : ''
    search.value = data
    if (data) look(data.id)
  }

  /** At its own name where a wish was refused. */
  function said(error: unknown): string {
    const refused = (error as Partial<Problem>).errors?.[0]
    const wish = reference.tables?.wishes.find((one) => refused?.field === `wishes.${one.value}`)
    return refused && wish ? `“${wish.label}”: ${refused.sentence}` : sentenceOf(error)
  }

  function look(id: number): void {
    timer = setTimeout(async () => {
      const { data } = await api.GET('/api/questions/proposals/{job_id}', {
        params: { path: { job_id: id } },
      })
      if (search.value?.id !== id) return
      if (data) search.value = data
      if (data?.state === 'running') look(id)
    }, LOOK_EVERY_MS)
  }

  async function stop(): Promise<void> {
    clearTimeout(timer)
    if (search.value?.state !== 'running') return
    const params = { path: { job_id: search.value.id } }
    await api.DELETE('/api/questions/proposals/{job_id}', { params })
    search.value = { ...search.value, state: 'cancelled' }
  }

  onUnmounted(() => void stop())
  return { search, problem, start, stop }
}
