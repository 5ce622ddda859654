/** Choosing boards for a build: one place for the charger, one for a separate protection, one for the regulator. */
import { computed } from 'vue'

import type { Board, Draft, Edit, Part } from '@/api/client'
import { useConversion } from '@/stores/conversion'

type Place = 'charger' | 'protection' | 'regulator'

/** A combined board stands in the first place it can fill. */
function placeOf(board: Draft<Board>): Place | undefined {
  if (board.charger) return 'charger'
  if (board.protection) return 'protection'
  return board.regulator ? 'regulator' : undefined
}

export function useBoards() {
  const conversion = useConversion()
  const boards = computed(() => conversion.build?.boards ?? [])
  const boardAt = (place: Place) => boards.value.find((board) => placeOf(board) === place)

  /** Put this part in its place, or leave the place empty. */
  function put(place: Place, part: Part | undefined): void {
    const list = `${conversion.buildPath}.boards`
    const now = boardAt(place)
    const edits: Edit[] = []
    if (now) edits.push({ path: `${list}.${now.id}`, value: part?.board ?? null })
    else if (part?.board) edits.push({ path: `${list}.+`, value: part.board })
    if (place === 'regulator') edits.push({ path: `${conversion.buildPath}.regulator`, value: null })
    void conversion.applyEdits(edits)
  }

  return { boards, boardAt, put }
}
