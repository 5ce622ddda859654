/** The photographs of the open conversion. */
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import { api, send, sentenceOf, type StoredPhoto, type PhotoMarks, type Problem } from '@/api/client'
import { useNewest } from '@/composables/useNewest'

export const usePhotos = defineStore('photos', () => {
  const photos = shallowRef<StoredPhoto[]>([])
  const problem = ref('')
  const newest = useNewest()
  let project = 0

  const path = (photo_id: number) => ({ params: { path: { project_id: project, photo_id } } })

  async function load(id: number): Promise<void> {
    project = id
    const params = { path: { project_id: id } }
    const heard = await newest(api.GET('/api/projects/{project_id}/photos', { params }))
    if (heard) photos.value = heard.data ?? []
  }

  /** Among those of the open conversion, if it is still the one that it was asked for. */
  function keep(
    of: number,
    { data, error }: { data?: StoredPhoto; error?: unknown },
  ): StoredPhoto | undefined {
    problem.value = error ? sentenceOf(error) : ''
    if (data && of === project) {
      const others = photos.value.filter((photo) => photo.id !== data.id)
      photos.value = [...others, data].sort((a, b) => a.id - b.id)
    }
    return data
  }

  /** The picture goes as it is: the server turns it upright and strips what the camera wrote into it. */
  async function add(file: File): Promise<StoredPhoto | undefined> {
    const of = project
    const caption = encodeURIComponent(file.name.replace(/\.\w+$/, '').slice(0, 120))
    const answer = await send(`/api/projects/${project}/photos?caption=${caption}`, {
      method: 'POST',
      body: file,
      headers: { 'Content-Type': file.type || 'application/octet-stream' },
    })
    const body = (await answer.json()) as StoredPhoto | Problem
    return keep(of, answer.ok ? { data: body as StoredPhoto } : { error: body })
  }

  async function mark(id: number, caption: string, marks: PhotoMarks): Promise<StoredPhoto | undefined> {
    const of = project
    const url = '/api/projects/{project_id}/photos/{photo_id}'
    const revision = photos.value.find((photo) => photo.id === id)?.revision
    const { data, error } = await api.PUT(url, { ...path(id), body: { caption, marks, revision } })
    if (error?.status === 409) await load(project)
    return keep(of, { data, error })
  }

  async function turn(id: number): Promise<StoredPhoto | undefined> {
    const of = project
    return keep(of, await api.POST('/api/projects/{project_id}/photos/{photo_id}/turn', path(id)))
  }

  /** A bank card in the picture, found and kept: all in its plane is measured by it. */
  async function findCard(id: number): Promise<StoredPhoto | undefined> {
    const of = project
    return keep(of, await api.POST('/api/projects/{project_id}/photos/{photo_id}/card', path(id)))
  }

  async function remove(id: number): Promise<void> {
    await api.DELETE('/api/projects/{project_id}/photos/{photo_id}', path(id))
    await load(project)
  }

  /** The pixels; a turned picture has a new height, so its address changes with it. */
  const pixels = (photo: StoredPhoto, size: 'picture' | 'thumbnail' | 'straight') =>
    `/api/projects/${project}/photos/${photo.id}/${size}?${photo.width}x${photo.height}`

  return { photos, problem, load, add, mark, turn, findCard, remove, pixels }
})
