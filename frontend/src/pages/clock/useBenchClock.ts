/** The timeline of all work in hand: asked anew every minute, and a notification when something is due. */
import { useDocumentVisibility, useIntervalFn, useStorage, useWebNotification } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'

import { api, sentenceOf, type ClockAnswer } from '@/api/client'
import { useNewest } from '@/composables/useNewest'

const EVERY_MS = 60_000

export function useBenchClock() {
  const bench = useStorage('bench', {
    chargers: 1,
    meters: 1,
    day_begins: '09:00',
    day_ends: '22:00',
    ready: false,
  })
  const answer = shallowRef<ClockAnswer>()
  const problem = ref('')
  const visible = useDocumentVisibility()
  const { isSupported, permissionGranted, ensurePermissions, show } = useWebNotification({
    requestPermissions: false,
  })

  const query = computed(() => ({ ...bench.value, ahead_min: -new Date().getTimezoneOffset() }))
  const calendar = computed(
    () =>
      `/api/clock/calendar?${new URLSearchParams(Object.entries(query.value).map(([key, value]) => [key, String(value)]))}`,
  )

  const newest = useNewest()
  async function ask(): Promise<void> {
    const heard = await newest(api.GET('/api/clock', { params: { query: query.value } }))
    if (!heard) return
    const { data, error } = heard
    problem.value = error ? sentenceOf(error) : ''
    if (data) answer.value = data
  }

  const next = computed(() => answer.value?.timeline.due[0])
  /** Said once for each thing, when its time has come. */
  const told = new Set<string>()
  function tell(): void {
    for (const due of answer.value?.timeline.due ?? []) {
      const key = `${due.page} ${due.step}`
      if (!due.waits_from || new Date(due.begins) > new Date() || told.has(key)) continue
      told.add(key)
      if (permissionGranted.value) void show({ title: due.job, body: due.title })
    }
  }

  watch(bench, () => void ask(), { deep: true, immediate: true })
  watch(visible, (now) => now === 'visible' && void ask())
  useIntervalFn(() => void ask().then(tell), EVERY_MS)
  return { bench, answer, problem, calendar, next, isSupported, permissionGranted, ensurePermissions }
}
