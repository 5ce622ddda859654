/** The search for builds: started anew with every wish, looked at while it goes on, stopped when the page is left. */
import { api, sentenceOf, type Problem, type ProposalSearch, type Wishes } from '@/api/client'
import { useLongWork } from '@/composables/useLongWork'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

export function useProposals() {
  const conversion = useConversion()
  const reference = useReference()
  const path = (id: number) => ({ params: { path: { job_id: id } } })
  const search = useLongWork<ProposalSearch>({
    look: (id) => api.GET('/api/questions/proposals/{job_id}', path(id)),
    cancel: (id) => api.DELETE('/api/questions/proposals/{job_id}', { ...path(id), keepalive: true }),
    everyMs: 300,
  })

  function start(wishes: Wishes): Promise<void> {
    const body = { ...conversion.question(), wishes }
    return search.start(() => api.POST('/api/questions/proposals', { body }), said)
  }

  /** At its own name where a wish was refused. */
  function said(error: unknown): string {
    const refused = (error as Partial<Problem>).errors?.[0]
    const wish = reference.tables?.wishes.find((one) => refused?.field === `wishes.${one.value}`)
    return refused && wish ? `“${wish.label}”: ${refused.sentence}` : sentenceOf(error)
  }

  return { search: search.work, problem: search.problem, start, stop: search.stop }
}
