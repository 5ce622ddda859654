/** Numbers as they stand on screen. It formats; it computes nothing of the trade. */
import { formatDate, useLocalStorage } from '@vueuse/core'
import { language, t } from '@/words'

/** 1.5 or 1,5: as this device is set, else as its language has it. */
export type DecimalMark = 'point' | 'comma'
const usualMark = (code: string): DecimalMark =>
  (1.5).toLocaleString(code).includes(',') ? 'comma' : 'point'
export const decimalMark = useLocalStorage<DecimalMark>('pocket-spark-decimals', usualMark(language))
const marked = (number: string): string => (decimalMark.value === 'comma' ? number.replace('.', ',') : number)

/** The same number by two ways differs in its last bits, and is not to be rounded up here and down there. */
const steady = (value: number): number => Number(value.toPrecision(9))
/** With so many decimals. */
export const fixed = (value: number, decimals: number): string => marked(steady(value).toFixed(decimals))

/** A count, in thousands with a thin space between: no mark that may be a decimal one. */
export const counted = (count: number): string => `${count}`.replace(/\B(?=(\d{3})+$)/g, '\u202f')

const PREFIX: Record<string, number> = { μ: 1e-6, m: 1e-3, k: 1e3, M: 1e6 }
const PREFIXED = /^([μmkM])(A|V|Ah|Ω|W|F)$/

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
  const text = steady(value).toFixed(decimals)
  return marked(text.includes('.') ? text.replace(/\.?0+$/, '') : text)
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

export const volts = (value: number): string => `${fixed(value, 2)} V`
export const amps = (value: number): string => engineering(value, 'A', Math.abs(value) >= 0.00995 ? 3 : 2)
export const milliampHours = (value: number): string =>
  value >= 10
    ? `${plain(value, 3)} Ah`
    : `${value >= 0.01 ? fixed(value * 1000, 0) : plain(value * 1000, 3)} mAh`
export const percent = (share: number): string =>
  `${Math.abs(share) >= 0.095 ? fixed(share * 100, 0) : plain(share * 100, 2)} %`

/** To a tenth, with no zero behind the point. */
export const millimetres = (mm: number): string => marked((steady(mm) + 1e-9).toFixed(1).replace(/\.0$/, ''))

/** As a fraction where a ruler has a mark within a fiftieth of a millimetre (2 7/16), else to a thousandth. */
export function inches(mm: number): string {
  const marks = Math.round((mm / 25.4) * 16)
  if (marks <= 0 || Math.abs((marks * 25.4) / 16 - mm) > 0.02) return fixed(mm / 25.4, 3)
  let [part, of] = [marks % 16, 16]
  while (part && part % 2 === 0) [part, of] = [part / 2, of / 2]
  return [Math.floor(marks / 16) || '', part ? `${part}/${of}` : ''].filter(String).join(' ')
}

/** A duration as coarse as a prediction deserves: "50 min", "4 h 20", "3 days". */
export function duration(hours: number): string {
  if (hours < 1) return `${Math.round(steady(hours) * 60)} min`
  if (hours >= 72) return days(hours / 24)
  const step = hours < 5 ? 5 : hours < 24 ? 10 : 60
  const minutes = Math.round((steady(hours) * 60) / step) * step
  const rest = minutes % 60
  return `${Math.floor(minutes / 60)} h${rest ? ` ${String(rest).padStart(2, '0')}` : ''}`
}

export function days(value: number): string {
  if (value >= 730) return t('{count} years', { count: Math.round(value / 365) })
  if (value >= 90) return t('{count} months', { count: Math.round(value / 30.4) })
  return t('{figure} days', { figure: fixed(value, value >= 9.95 ? 0 : 1) })
}

// By tables of our own: to be asked the first time, the browser's hold a page up for longer than all its words.
const MONTHS = t(
  'January February March April May June July August September October November December',
).split(' ')
const DAYS = t('Sun Mon Tue Wed Thu Fri Sat').split(' ')

type Moment = string | number | Date
/** 09:05 */
export const clockTime = (moment: Moment): string => formatDate(new Date(moment), 'HH:mm')
/** 7 November; 7 Nov where only so many letters are wanted. */
export function dayOfMonth(moment: Moment, letters?: number): string {
  const at = new Date(moment)
  return `${at.getDate()} ${MONTHS[at.getMonth()]!.slice(0, letters)}`
}
/** Sat 7 Nov */
export const dayName = (moment: Moment): string =>
  `${DAYS[new Date(moment).getDay()]} ${dayOfMonth(moment, 3)}`
/** 7 Nov, 09:05 */
export const dayAndTime = (moment: Moment): string => `${dayOfMonth(moment, 3)}, ${clockTime(moment)}`

const NUMBER_AND_UNIT =
  /(\d) (?=(?:[numkM]?[AVWΩF]|[mk]?Ah|Wh|kΩ|mm|cm|h|min|s|°[CF]|%|days|months|years)\b|%|Ω)/g

/** A sentence in which no number is parted from its unit at the end of a line. */
/** The size of a file. */
export const megabytes = (bytes: number): string => `${plain(bytes / 1e6, 2)} MB`

export const unbroken = (sentence: string): string => sentence.replace(NUMBER_AND_UNIT, '$1\u00a0')
