/** A cell of the library, or of one's own, as it is tried in this build. */
import type { Cell } from '@/api/client'

export interface TriedCell {
  id: string
  cell: Cell
  own: boolean
}
