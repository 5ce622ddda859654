/**
 * The units of this device: in what lengths and temperatures are written, and with which decimal mark. Numbers may be
 * typed in any.
 * They go to the server as a cookie with the language, so that its sentences, files and streams are in the same.
 */
import { createSharedComposable, useLocalStorage } from '@vueuse/core'
import { watch } from 'vue'

import { decimalMark, inches, millimetres } from '@/format'
import { language } from '@/words'

export type LengthUnit = 'mm' | 'in'
export type TemperatureUnit = 'C' | 'F'
const A_YEAR_S = 31_536_000

export const useUnits = createSharedComposable(() => {
  const length = useLocalStorage<LengthUnit>('pocket-spark-length', 'mm')
  const temperature = useLocalStorage<TemperatureUnit>('pocket-spark-temperature', 'C')
  const decimals = decimalMark

  watch(
    [length, temperature, decimals],
    (units) => {
      document.cookie = `units=${[...units, language].join('.')}; path=/; max-age=${A_YEAR_S}; SameSite=Strict`
    },
    { immediate: true, flush: 'sync' },
  )

  /** The unit in which a field of this unit is shown here. */
  const here = (unit: string): string =>
    unit === 'mm' ? length.value : unit === '°C' ? `°${temperature.value}` : unit

  /** A length without its unit. */
  const bare = (mm: number): string => (length.value === 'in' ? inches(mm) : millimetres(mm))
  const lengthText = (mm: number): string => `${bare(mm)} ${length.value}`

  const degrees = (celsius: number): number => (temperature.value === 'F' ? (celsius * 9) / 5 + 32 : celsius)
  const celsiusText = (celsius: number): string => `${degrees(celsius).toFixed(0)} °${temperature.value}`

  return { length, temperature, decimals, here, bare, lengthText, celsiusText }
})
