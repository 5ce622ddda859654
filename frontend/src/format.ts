/** Numbers as they stand on screen. It formats; it computes nothing of the trade. */

const PREFIX: Record<string, number> = { μ: 1e-6, m: 1e-3, k: 1e3, M: 1e6 }
const PREFIXED = /^([μmkM])(A|V|Ah|Ω|W)$/

/** How many base units one of this unit is: "mA" is 0.001. */
export function unitSize(unit: string): number {
  if (unit === '%') return 0.01
  if (unit === 'in') return 25.4
  const found = PREFIXED.exec(unit)
  return found ? PREFIX[found[1]!]! : 1
}

/** A value in base units (mm, °C, A …) as a number of this unit. */
export const inUnit = (value: number, unit: string): number =>
  unit === '°F' ? (value * 9) / 5 + 32 : value / unitSize(unit)

/** At most `digits` significant figures, no trailing zeros, never an exponent. */
export function plain(value: number, digits = 4): string {
  if (value === 0) return '0'
  const decimals = Math.min(Math.max(digits - 1 - Math.floor(Math.log10(Math.abs(value))), 0), 9)
  const text = value.toFixed(decimals)
  return text.includes('.') ? text.replace(/\.?0+$/, '') : text
}

export function engineering(value: number, unit: string, digits = 3): string {
  if (value === 0) return `0 ${unit}`
  const steps: [number, string][] = [
    [1e6, 'M'],
    [1e3, 'k'],
    [1, ''],
    [1e-3, 'm'],
    [1e-6, 'μ'],
    [1e-9, 'n'],
  ]
  const [size, prefix] = steps.find(([size]) => Math.abs(value) >= size * 0.9995) ?? [1e-9, 'n']
  return `${plain(value / size, digits)} ${prefix}${unit}`
}

export const volts = (value: number): string => `${value.toFixed(2)} V`
export const amps = (value: number): string => engineering(value, 'A')
export const milliampHours = (value: number): string =>
  value >= 10
    ? `${plain(value, 3)} Ah`
    : `${value >= 0.01 ? (value * 1000).toFixed(0) : plain(value * 1000, 3)} mAh`
export const percent = (share: number): string => `${(share * 100).toFixed(share < 0.095 ? 1 : 0)} %`

/** A duration as coarse as a prediction deserves: "50 min", "4 h 20", "3 days". */
export function duration(hours: number): string {
  if (hours < 1) return `${Math.round(hours * 60)} min`
  if (hours >= 72) return days(hours / 24)
  const step = hours < 5 ? 5 : hours < 24 ? 10 : 60
  const minutes = Math.round((hours * 60) / step) * step
  const rest = minutes % 60
  return `${Math.floor(minutes / 60)} h${rest ? ` ${String(rest).padStart(2, '0')}` : ''}`
}

export function days(value: number): string {
  if (value >= 730) return `${Math.round(value / 365)} years`
  if (value >= 90) return `${Math.round(value / 30.4)} months`
  return `${value >= 10 ? value.toFixed(0) : value.toFixed(1)} days`
}

const CLOCK: Intl.DateTimeFormatOptions = { hour: '2-digit', minute: '2-digit' }
const DAY: Intl.DateTimeFormatOptions = { weekday: 'short', day: 'numeric', month: 'short' }
export const clockTime = (moment: string | number): string =>
  new Date(moment).toLocaleTimeString('en-GB', CLOCK)
export const dayName = (moment: string | number): string => new Date(moment).toLocaleDateString('en-GB', DAY)
