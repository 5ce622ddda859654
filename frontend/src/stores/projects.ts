/** All conversions: making, importing, archiving and restoring. */
import { useTimeoutFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import {
  api,
  send,
  sentenceOf,
  type Beginning,
  type Problem,
  type ProjectLine,
  type ShelfCounts,
  type StoredProject,
} from '@/api/client'
import { useNewest } from '@/composables/useNewest'
import { useOnce } from '@/composables/useOnce'
import { useOwnTools } from '@/composables/useOwnTools'
import { sendUnsent } from '@/stores/unsent'
import { t } from '@/words'

/** So many lines at first and at each step down; no more than so many in one answer. */
const PAGE = 50
const MOST = 200

export type Order = 'touched' | 'name' | 'stage'
interface ShelfSieve {
  words?: string
  stage?: string
  order?: Order
  archived?: boolean
}

export const useProjects = defineStore('projects', () => {
  /** As much of the shelf as has been looked at, through its sieve. */
  const lines = shallowRef<ProjectLine[]>()
  const archived = shallowRef<ProjectLine[]>()
  const counts = shallowRef<ShelfCounts>()
  const problem = ref('')
  let sieve: ShelfSieve = {}
  let isWhole = false

  /** Other lines than before, from the first. */
  async function show(wanted: ShelfSieve): Promise<void> {
    sieve = wanted
    await load(PAGE)
  }

  /** What this device could not send while the server was down; a sentence where it has to be looked at. */
  async function sendWhatWaits(): Promise<void> {
    const [waits] = await sendUnsent()
    if (waits)
      problem.value = t('What was typed in {name} is kept on this device: open it to go on.', {
        name: waits.name,
      })
  }

  /** A list that arrives late does not wipe the sentence of an import refused meanwhile. */
  const newest = useNewest()
  async function load(most = Math.max(lines.value?.length ?? 0, PAGE)): Promise<void> {
    const query = { ...sieve, most: Math.min(most, MOST) }
    const asked = Promise.all([
      api.GET('/api/projects', { params: { query } }),
      api.GET('/api/projects/counts'),
    ])
    const heard = await newest(asked)
    if (!heard) return
    const [{ data, error }, counted] = heard
    if (counted.data) counts.value = counted.data
    if (!data) {
      problem.value = sentenceOf(error)
      return
    }
    // Of a long list what is far down stays as it was read.
    const fresh = new Set(data.map(({ id }) => id))
    const below = most > MOST ? (lines.value ?? []).slice(MOST).filter(({ id }) => !fresh.has(id)) : []
    lines.value = [...data, ...below]
    isWhole = data.length < query.most
    if (data.some((line) => line.outdated)) lookAgain()
  }

  /** The next page, below what is there. */
  async function more(): Promise<void> {
    const above = lines.value
    if (!above || isWhole) return
    const query = { ...sieve, skip: above.length, most: PAGE }
    const { data } = await api.GET('/api/projects', { params: { query } })
    // Other lines are wanted by now, or these were read anew.
    if (!data || lines.value !== above) return
    isWhole = data.length < PAGE
    const there = new Set(above.map(({ id }) => id))
    lines.value = [...above, ...data.filter(({ id }) => !there.has(id))]
  }

  /** Some, by words in them: nothing that is shown changes. */
  async function find(words: string, most: number): Promise<readonly ProjectLine[]> {
    const { data } = await api.GET('/api/projects', { params: { query: { words, most } } })
    return data ?? []
  }

  /** Some lines are being judged by newer rules meanwhile. */
  const { start: lookAgain } = useTimeoutFn(() => void load(), 2000, { immediate: false })

  const own = useOwnTools()
  async function loadArchived(): Promise<void> {
    const query = { archived: true, most: MOST }
    const { data, error } = await api.GET('/api/projects', { params: { query } })
    if (data) archived.value = data
    else problem.value = sentenceOf(error)
  }

  async function make(name: string): Promise<StoredProject | undefined> {
    // Taken until it is said: the survey shows it as such.
    const gadget = { name, supply: { battery: 'LR6', series: 2 } }
    const basis = { 'gadget.supply.battery': 'default', 'gadget.supply.series': 'default' }
    const body = { gadget, basis, ...own.ofABeginning() }
    const { data, error } = await api.POST('/api/projects', { body })
    problem.value = error ? sentenceOf(error) : ''
    return data
  }

  /** From answers, half of them "I do not know"; a refusal stays with the one who asked. */
  async function begin(answers: Beginning): Promise<{ made?: StoredProject; refused?: Problem }> {
    const { data, error } = await api.POST('/api/projects/begin', { body: answers })
    return data ? { made: data } : { refused: error }
  }

  async function example(): Promise<StoredProject | undefined> {
    const { data, error } = await api.POST('/api/projects/example')
    problem.value = error ? sentenceOf(error) : ''
    return data
  }

  async function duplicate(line: { id: number; name: string }): Promise<void> {
    const params = { path: { project_id: line.id } }
    const body = { name: t('{name}, another', { name: line.name.slice(0, 110) }) }
    const { error } = await api.POST('/api/projects/{project_id}/duplicate', { params, body })
    problem.value = error ? sentenceOf(error) : ''
    await load()
  }

  /** The exported JSON, or the zip with its photographs; the server tells which. */
  async function importFile(file: Blob): Promise<StoredProject | undefined> {
    const answer = await send('/api/projects/import', {
      method: 'POST',
      body: file,
      headers: { 'Content-Type': file.type || 'application/octet-stream' },
    })
    const reply: unknown = await answer.json()
    problem.value = answer.ok ? '' : t('Nothing was imported. {why}', { why: sentenceOf(reply) })
    return answer.ok ? (reply as StoredProject) : undefined
  }

  async function archive(id: number): Promise<void> {
    problem.value = ''
    await api.DELETE('/api/projects/{project_id}', { params: { path: { project_id: id } } })
    await load()
  }

  async function restore(id: number): Promise<void> {
    await api.POST('/api/projects/{project_id}/restore', { params: { path: { project_id: id } } })
    await Promise.all([load(), archived.value ? loadArchived() : undefined])
  }

  /** Of what was archived only; there is no way back. */
  async function erase(id: number): Promise<void> {
    const params = { path: { project_id: id }, query: { for_good: true } }
    const { error } = await api.DELETE('/api/projects/{project_id}', { params })
    problem.value = error ? sentenceOf(error) : ''
    await loadArchived()
  }

  /** Keep what can be read of a stored conversion that cannot be read whole. */
  async function repair(id: number): Promise<StoredProject | undefined> {
    const { data, error } = await api.POST('/api/projects/{project_id}/repair', {
      params: { path: { project_id: id } },
    })
    problem.value = error ? sentenceOf(error) : ''
    await load()
    return data
  }

  return {
    lines,
    archived,
    counts,
    problem,
    show,
    sendWhatWaits,
    load,
    more: useOnce(more),
    find,
    loadArchived,
    make: useOnce(make),
    begin: useOnce(begin),
    example: useOnce(example),
    duplicate: useOnce(duplicate),
    importFile,
    archive,
    restore,
    erase,
    repair,
  }
})
