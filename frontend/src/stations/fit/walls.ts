/** Walls of a bay and what has its hole in them, to whoever reads. */
import { t } from '@/words'

export const WALLS: Record<string, string> = {
  left: t('left'),
  right: t('right'),
  front: t('front'),
  back: t('back'),
  floor: t('floor'),
  lid: t('lid'),
}
export const HOLES: Record<string, string> = {
  socket: t('socket'),
  plug: t('plug'),
  lamp: t('lamp'),
  lever: t('lever'),
  switch: t('switch'),
  wire: t('wire'),
  wires: t('wires'),
}
