/** A run that an instrument writes, followed live. It is kept by its number, so a reload finds it again. */
import { useEventSource, useLocalStorage } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'

import { api, send, sentenceOf, type Alarm, type LiveNews, type Problem } from '@/api/client'

export interface LiveChoice {
  instrument: string
  fault: string
  speed_up: number
}

export function useLiveRun(place: string, question: () => unknown) {
  const run = useLocalStorage<{ id: number; name: string; seconds: number } | null>(
    `pocket-spark-live-${place}`,
    null,
    { serializer: { read: (text) => JSON.parse(text) as never, write: (value) => JSON.stringify(value) } },
  )
  const rows = shallowRef<LiveNews['samples']>([])
  const alarms = ref<Alarm[]>([])
  const state = ref<'none' | 'running' | 'finished'>('none')
  const problem = ref('')
  const cutShort = ref(false)
  const failure = ref('')

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
    if (news.state === 'finished') source.close()
  })
  onScopeDispose(() => source.close())

  async function start(choice: LiveChoice): Promise<void> {
    const query = {
      instrument: choice.instrument as never,
      fault: (choice.fault || null) as never,
      speed_up: choice.speed_up,
      seed: Math.floor(Math.random() * 9999),
    }
    forget()
    const { data, error } = await api.POST('/api/instruments/live', {
      params: { query },
      body: question() as never,
    })
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
  }
  /** What was written so far; nothing, and a sentence, where that is too little to be a log. */
  async function csv(): Promise<string> {
    const answer = await send(`${address.value}/log.csv`)
    problem.value = answer.ok ? '' : sentenceOf((await answer.json()) as Problem)
    return answer.ok ? await answer.text() : ''
  }

  return { run, rows, alarms, state, problem, cutShort, failure, start, stop, forget, csv }
}
