/** A run that an instrument writes, followed live. It is kept by its number, so a reload finds it again. */
import { useEventSource, useLocalStorage } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'

import {
  api,
  send,
  sentenceOf,
  type Alarm,
  type LiveNews,
  type LiveStarted,
  type Problem,
} from '@/api/client'

export type LiveRunInHand = ReturnType<typeof useLiveRun>

export function useLiveRun(place: string) {
  const run = useLocalStorage<LiveStarted | null>(`pocket-spark-live-${place}`, null, {
    serializer: {
      read: (text) => JSON.parse(text) as LiveStarted | null,
      write: (value) => JSON.stringify(value),
    },
  })
  const rows = shallowRef<LiveNews['samples']>([])
  const alarms = ref<Alarm[]>([])
  const state = ref<'none' | 'running' | 'finished'>('none')
  const problem = ref('')
  const cutShort = ref(false)
  const failure = ref('')
  const remarks = ref<readonly string[]>([])

  const address = computed(() => (run.value ? `/api/instruments/live/${run.value.id}` : undefined))
  // The run has made room for newer ones.
  const autoReconnect = { retries: 3, delay: 500, onFailed: () => forget() }
  const source = useEventSource<string[], string>(address, [], { autoReconnect })
  watch(source.data, (text) => {
    if (!text) return
    const news = JSON.parse(text) as LiveNews
    // A line that broke and came back begins again: what is known already is not taken twice.
    const known = rows.value.at(-1)?.[0] ?? -1
    rows.value = rows.value.concat(news.samples.filter((row) => row[0] > known))
    alarms.value = news.alarms
    state.value = news.state
    cutShort.value = news.cut_short
    failure.value = news.failure
    remarks.value = news.remarks
    if (news.state === 'finished') source.close()
  })
  onScopeDispose(() => source.close())

  /** Follows the run that the server is asked to begin; nothing, and a sentence, where it is refused. */
  async function begin(ask: () => Promise<{ data?: LiveStarted; error?: unknown }>): Promise<void> {
    forget()
    const { data, error } = await ask()
    problem.value = error ? sentenceOf(error) : ''
    if (!data) return
    state.value = 'running'
    run.value = data
  }
  async function stop(): Promise<void> {
    if (run.value)
      await api.DELETE('/api/instruments/live/{run_id}', { params: { path: { run_id: run.value.id } } })
  }
  function forget(): void {
    source.close()
    run.value = null
    rows.value = []
    alarms.value = []
    state.value = 'none'
    cutShort.value = false
    failure.value = ''
    remarks.value = []
  }
  /** What was written so far; nothing, and a sentence, where that is too little to be a log. */
  async function csv(): Promise<string> {
    const answer = await send(`${address.value}/log.csv`)
    problem.value = answer.ok ? '' : sentenceOf((await answer.json()) as Problem)
    return answer.ok ? await answer.text() : ''
  }

  return { run, rows, alarms, state, problem, cutShort, failure, remarks, begin, stop, forget, csv }
}
