/** All conversions: making, importing, archiving and restoring. */
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import { api, sentenceOf, type StoredProject, type ProjectLine } from '@/api/client'

export const useProjects = defineStore('projects', () => {
  const lines = shallowRef<ProjectLine[]>()
  const problem = ref('')

  /** A list that arrives late does not wipe the sentence of an import refused meanwhile. */
  async function load(): Promise<void> {
    const { data, error } = await api.GET('/api/projects')
    if (data) lines.value = data
    else problem.value = sentenceOf(error)
  }

  async function make(name: string): Promise<StoredProject | undefined> {
    const { data, error } = await api.POST('/api/projects', {
      body: { gadget: { name, supply: { battery: 'LR6', series: 2 } } },
    })
    problem.value = error ? sentenceOf(error) : ''
    return data
  }

  /** The exported JSON, or the zip with its photographs; the server tells which. */
  async function importFile(file: Blob): Promise<StoredProject | undefined> {
    const { data, error } = await api.POST('/api/projects/import', {
      body: file as never,
      bodySerializer: (body: unknown) => body as Blob,
      headers: { 'Content-Type': file.type || 'application/octet-stream' },
    })
    problem.value = error ? `Nothing was imported. ${sentenceOf(error)}` : ''
    return data
  }

  async function archive(id: number): Promise<void> {
    problem.value = ''
    await api.DELETE('/api/projects/{project_id}', { params: { path: { project_id: id } } })
    await load()
  }

  async function restore(id: number): Promise<void> {
    await api.POST('/api/projects/{project_id}/restore', { params: { path: { project_id: id } } })
    await load()
  }

  return { lines, problem, load, make, importFile, archive, restore }
})
