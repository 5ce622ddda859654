/** Colours of a resistor's bands, and where its ohms are from, to whoever reads. */
import { t } from '@/words'

export const COLOURS: Record<string, string> = {
  black: t('black'),
  brown: t('brown'),
  red: t('red'),
  orange: t('orange'),
  yellow: t('yellow'),
  green: t('green'),
  blue: t('blue'),
  violet: t('violet'),
  grey: t('grey'),
  white: t('white'),
  gold: t('gold'),
  silver: t('silver'),
}
export const ORIGINS: Record<string, string> = {
  chosen: t('chosen'),
  marked: t('marked'),
  measured: t('measured'),
  'as delivered': t('as delivered'),
}
