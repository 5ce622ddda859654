/** Choosing boards for a build: one place for the charger, one for a separate protection, one for the regulator. */
import { computed } from 'vue'

import type { Board, Part } from '@/api/client'
import { useConversion } from '@/stores/conversion'

type Place = 'charger' | 'protection' | 'regulator'

/** A combined board stands in the first place it can fill. */
function placeOf(board: Board): Place | undefined {
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
    conversion.change((document) => {
      const build = document.builds[conversion.buildIndex]!
      const others = (build.boards ?? []).filter((board) => placeOf(board) !== place)
      const chosen = part?.board ? [JSON.parse(JSON.stringify(part.board)) as Board] : []
      build.boards = place === 'charger' ? [...chosen, ...others] : [...others, ...chosen]
      if (place === 'regulator') build.regulator = null
    })
  }

  return { boards, boardAt, put }
}
