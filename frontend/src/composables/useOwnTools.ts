/** What this maker measures with and pays in: a new conversion, and a bay that is begun, take it over. */
import { useLocalStorage } from '@vueuse/core'

import { useReference } from '@/stores/reference'

/** The kind of each by its label, as the core names them; none: the usual one. */
const calipers = useLocalStorage('pocket-spark-calipers', '')
const meter = useLocalStorage('pocket-spark-meter', '')
const currency = useLocalStorage('pocket-spark-currency', '')

export function useOwnTools() {
  const reference = useReference()
  const rightTo = (kind: 'calipers' | 'meters', label: string) =>
    reference.tables?.[kind].find((tool) => tool.label === label)?.right_to
  return {
    calipers,
    meter,
    currency,
    /** mm; undefined: as the core takes it. */
    calipersMm: () => rightTo('calipers', calipers.value),
    /** What of it a new document begins with. */
    ofABeginning: () => ({
      meter_share: rightTo('meters', meter.value),
      costs: { currency: currency.value },
    }),
  }
}
