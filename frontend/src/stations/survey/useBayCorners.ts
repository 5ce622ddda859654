/** The four corners of a bay on its photograph: pressed one by one, or proposed and dragged right. */
import { ref } from 'vue'

import { api, sentenceOf, type ProposedBay, type StoredPhoto } from '@/api/client'
import { useUnits } from '@/composables/useUnits'
import { useConversion } from '@/stores/conversion'

type Place = { x: number; y: number }
/** Of the picture: a corner is caught from so near. */
const CATCH = 0.025

export function useBayCorners(photo: () => StoredPhoto) {
  const { lengthText } = useUnits()
  const conversion = useConversion()
  const [length = 62, width = 38] = conversion.document?.gadget.bay?.rooms?.[0]?.size_mm ?? []
  const corners = ref<Place[]>([])
  const bayMm = ref([`${length} mm`, `${width} mm`])
  const proposal = ref<ProposedBay>()
  const looking = ref(false)
  const problem = ref('')
  const params = () => ({ path: { project_id: conversion.stored!.id, photo_id: photo().id } })

  function add(at: Place): void {
    corners.value = [...corners.value.slice(0, corners.value.length % 4), at]
    if (corners.value.length === 4) void measureByCard(corners.value)
  }

  const near = (at: Place) => {
    const found = corners.value.findIndex(({ x, y }) => Math.hypot(x - at.x, y - at.y) < CATCH)
    return corners.value.length === 4 && found >= 0 ? found : undefined
  }

  function drag(index: number, at: Place): void {
    corners.value = corners.value.map((corner, n) => (n === index ? at : corner))
    void measureByCard(corners.value)
  }

  /** Length and width of the bay, where a card tells them; they stay to be looked at and typed over. */
  async function measureByCard(rim: Place[]): Promise<void> {
    if (!photo().marks.card) return
    const url = '/api/projects/{project_id}/photos/{photo_id}/rectangle'
    const body = { corners: rim as [Place, Place, Place, Place], scale: proposal.value?.found.scale ?? 1 }
    const { data } = await api.POST(url, { params: params(), body })
    if (data && corners.value === rim) bayMm.value = [lengthText(data.length_mm), lengthText(data.width_mm)]
  }

  /** Of what is found nothing is kept before the maker says so. */
  async function look(): Promise<void> {
    looking.value = true
    problem.value = ''
    const url = '/api/projects/{project_id}/photos/{photo_id}/bay'
    const { data, error } = await api.POST(url, { params: params() })
    looking.value = false
    problem.value = error ? sentenceOf(error) : ''
    if (!data) return
    const { bay } = data.found
    proposal.value = data
    corners.value = bay.corners
    bayMm.value = [lengthText(bay.length_mm), lengthText(bay.width_mm)]
  }

  return { corners, bayMm, proposal, looking, problem, add, near, drag, look }
}
