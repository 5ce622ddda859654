/** What can be marked on a photograph, what each tool asks for, and where a length that is read off may go. */
import { t } from '@/words'

export type Tool = 'known' | 'length' | 'note' | 'bay' | 'obstacle' | 'wall' | 'pads'

export const SAYS: Record<Exclude<Tool, 'pads'>, string> = {
  known: t('Draw along something whose length you know.'),
  length: t('Draw along what you want to read off, in the same plane.'),
  note: t('Press the spot the note is about.'),
  bay: t('Press its corners: front left, front right, back right, back left.'),
  obstacle: t('Draw from one corner of it to the opposite one; near walls and edges it is drawn to them.'),
  wall: t('Draw along the inner edge of a wall, as far as it may be opened for a socket.'),
}

const A_LENGTH = { label: t('Name of the length'), hint: t('bay width') }
export const NAMES: Record<Exclude<Tool, 'pads'>, { label: string; hint: string }> = {
  known: A_LENGTH,
  length: A_LENGTH,
  bay: A_LENGTH,
  wall: A_LENGTH,
  note: { label: t('Note'), hint: t('red wire to the switch') },
  obstacle: { label: t('What it is'), hint: t('spring rib') },
}

export const TARGETS = [
  { label: t('bay length'), value: 'gadget.bay.rooms.0.size_mm.0' },
  { label: t('bay width'), value: 'gadget.bay.rooms.0.size_mm.1' },
  { label: t('bay height'), value: 'gadget.bay.rooms.0.size_mm.2' },
  { label: t('tube diameter'), value: 'gadget.bay.tube.diameter_mm' },
  { label: t('tube length'), value: 'gadget.bay.tube.length_mm' },
  { label: t('outer length'), value: 'gadget.shell.outer_mm.0' },
  { label: t('outer width'), value: 'gadget.shell.outer_mm.1' },
  { label: t('outer height'), value: 'gadget.shell.outer_mm.2' },
]
