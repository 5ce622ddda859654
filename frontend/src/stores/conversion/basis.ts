/** Where the values of the document come from: measured, printed, inferred, or taken unasked. */
import type { Basis } from '@/api/client'
import { canonical, groupsOf, isWithin, valueAt } from '@/document'
import type { Judgement } from '@/stores/conversion/judgement'
import type { Screen } from '@/stores/conversion/screen'
import { useReference } from '@/stores/reference'

export function useBasis({ document, change }: Screen, { assessment }: Judgement) {
  const reference = useReference()

  function basisOf(path: string): Basis {
    const place = canonical(document.value, path)
    const noted = document.value?.basis ?? {}
    // Of a group that was noted a moment ago no answer has come yet.
    const isThere = valueAt(document.value, place) !== null
    const group = groupsOf(place).find((each) => each in noted && (isThere || each === place))
    return group ? noted[group]! : (assessment.value?.basis[place] ?? 'default')
  }

  function setBasis(path: string, basis: Basis): void {
    const place = canonical(document.value, path)
    change((changed) => (changed.basis = { ...changed.basis, [place]: basis }))
  }

  /** A figure that is typed over a guess, or over what was taken unasked, is none any more: measured where such fields
   * are, printed elsewhere. */
  function noteTyped(path: string): void {
    const shown = document.value
    if (!shown) return
    const place = canonical(shown, path)
    const taken = groupsOf(place).find((group) => group in shown.basis)
    const isTaken = taken !== undefined && shown.basis[taken] === 'default'
    if (basisOf(place) !== 'inferred' && !isTaken) return
    const measuring = isWithin(place, reference.tables?.measuring ?? [])
    shown.basis = { ...shown.basis, [place]: measuring ? 'measured' : 'label' }
  }

  return { basisOf, setBasis, noteTyped }
}
