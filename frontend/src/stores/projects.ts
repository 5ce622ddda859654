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
  type StoredProject,
} from '@/api/client'
import { useOnce } from '@/composables/useOnce'
import { useOwnTools } from '@/composables/useOwnTools'

export const useProjects = defineStore('projects', () => {
  const lines = shallowRef<ProjectLine[]>()
  const archived = shallowRef<ProjectLine[]>()
  const problem = ref('')

  /** A list that arrives late does not wipe the sentence of an import refused meanwhile. */
  async function load(): Promise<void> {
    const { data, error } = await api.GET('/api/projects')
    if (data) lines.value = data
    else problem.value = sentenceOf(error)
    if (data?.some((line) => line.outdated)) lookAgain()
  }

  /** Some lines are being judged by newer rules meanwhile. */
  const { start: lookAgain } = useTimeoutFn(() => void load(), 2000, { immediate: false })

  const own = useOwnTools()
  async function loadArchived(): Promise<void> {
    const { data, error } = await api.GET('/api/projects', { params: { query: { archived: true } } })
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
    return data ? { made: data } : { refused: error as Problem }
  }

  async function example(): Promise<StoredProject | undefined> {
    const { data, error } = await api.POST('/api/projects/example')
    problem.value = error ? sentenceOf(error) : ''
    return data
  }

  async function duplicate(line: { id: number; name: string }): Promise<void> {
    const params = { path: { project_id: line.id } }
    const body = { name: `${line.name.slice(0, 110)}, another` }
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
    problem.value = answer.ok ? '' : `Nothing was imported. ${sentenceOf(reply)}`
    return answer.ok ? (reply as StoredProject) : undefined
  }

  async function archive(id: number): Promise<void> {
    problem.value = ''
    await api.DELETE('/api/projects/{project_id}', { params: { path: { project_id: id } } })
    await Promise.all([load(), loadArchived()])
  }

  async function restore(id: number): Promise<void> {
    await api.POST('/api/projects/{project_id}/restore', { params: { path: { project_id: id } } })
    await Promise.all([load(), loadArchived()])
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
    problem,
    load,
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
