/** A price with the currency that the maker set for this conversion. */
import { fixed } from '@/format'
import { useConversion } from '@/stores/conversion'

export function useMoney() {
  const conversion = useConversion()
  return (value: number) => [fixed(value, 2), conversion.document?.costs?.currency].filter(Boolean).join(' ')
}
