/** The shelf: all conversions, and making, importing and putting away. */
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import { api, sentenceOf, type KeptProject, type ShelfLine } from '@/api/client'

export const useShelf = defineStore('shelf', () => {
  const lines = shallowRef<ShelfLine[]>()
  const trouble = ref('')

  /** A list that arrives late does not wipe the sentence of an import refused meanwhile. */
  async function load(): Promise<void> {
    try {
      const { data, error } = await api.GET('/api/projects')
      lines.value = data ?? []
      if (error) trouble.value = sentenceOf(error)
    } catch {
      trouble.value = sentenceOf(undefined)
    }
  }

  async function make(name: string): Promise<KeptProject | undefined> {
    const { data, error } = await api.POST('/api/projects', {
      body: {
        format: 'pocket-spark/1',
        gadget: { name, supply: { battery: 'LR6', series: 2 } },
      },
    })
    trouble.value = error ? sentenceOf(error) : ''
    return data
  }

  /** The exported JSON, or the zip with its photographs; the server tells which. */
  async function importFile(file: Blob): Promise<KeptProject | undefined> {
    const { data, error } = await api.POST('/api/projects/import', {
      body: file as never,
      bodySerializer: (body: unknown) => body as Blob,
      headers: { 'Content-Type': file.type || 'application/octet-stream' },
    })
    trouble.value = error ? `Nothing was imported. ${sentenceOf(error)}` : ''
    return data
  }

  async function putAway(id: number): Promise<void> {
    trouble.value = ''
    await api.DELETE('/api/projects/{project_id}', { params: { path: { project_id: id } } })
    await load()
  }

  async function bringBack(id: number): Promise<void> {
    await api.POST('/api/projects/{project_id}/bring-back', { params: { path: { project_id: id } } })
    await load()
  }

  return { lines, trouble, load, make, importFile, putAway, bringBack }
})
