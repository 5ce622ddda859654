/** Pads of a board clicked on its photograph: first its four corners, then one pad after the other. */
import { computed, ref } from 'vue'

import { api, sentenceOf } from '@/api/client'
import { useQuestion } from '@/composables/useQuestion'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

interface Place {
  x: number
  y: number
}
const CORNERS = [t('front left'), t('front right'), t('back right'), t('back left')]

export function usePadMarks() {
  const conversion = useConversion()
  const boards = useQuestion(async (body) => await api.POST('/api/questions/board-pads', { body }))
  const board = ref('')
  const corners = ref<Place[]>([])
  const spots = ref<Record<string, Place>>({})
  const problem = ref('')
  const done = ref('')

  const chosen = computed(() => boards.value?.find(({ id }) => id === board.value) ?? boards.value?.[0])
  const next = computed(() => chosen.value?.pads.find((pad) => !(pad in spots.value)))
  const says = computed(() => {
    if (boards.value && !chosen.value) return t('No board of this build has a size yet: measure one first.')
    if (corners.value.length < CORNERS.length)
      return t('The bare board, its socket or its input to the left: press its {length} corner.', {
        length: CORNERS[corners.value.length],
      })
    return next.value
      ? t('Press {next}, or keep what is marked.', { next: next.value })
      : t('All pads are marked.')
  })

  function press(at: Place): void {
    done.value = ''
    if (corners.value.length < CORNERS.length) corners.value = [...corners.value, at]
    else if (next.value) spots.value = { ...spots.value, [next.value]: at }
  }
  function clear(): void {
    corners.value = []
    spots.value = {}
    problem.value = ''
  }
  function choose(id: string): void {
    board.value = id
    clear()
  }

  const keep = () => conversion.within(keepNow)
  async function keepNow(): Promise<void> {
    const { id, name } = chosen.value!
    const sent = { corners: corners.value, spots: spots.value }
    const pads = Object.entries(sent.spots).map(([name, at]) => ({ name, at }))
    const body = { ...conversion.question(), board: id, corners: sent.corners, pads }
    const { data, error } = await api.POST('/api/questions/board-pads/in-photo', { body })
    problem.value = error ? sentenceOf(error) : ''
    if (!data) return
    await conversion.applyEdits(data)
    takeOff(sent)
    done.value = t('{name} is drawn with its pads where they are.', { name })
  }
  /** What was pressed since stays, on the corners it was pressed by. */
  function takeOff(sent: { corners: Place[]; spots: Record<string, Place> }): void {
    const since = Object.entries(spots.value).filter(([name, at]) => sent.spots[name] !== at)
    spots.value = Object.fromEntries(since)
    if (!since.length && corners.value === sent.corners) corners.value = []
  }
  return { boards, chosen, corners, spots, next, says, problem, done, choose, press, clear, keep }
}
