/** What can be marked on a photograph, what each tool asks for, and where a length that is read off may go. */

export type Tool = 'known' | 'length' | 'note' | 'bay' | 'obstacle' | 'wall' | 'pads'

export const SAYS: Record<Exclude<Tool, 'pads'>, string> = {
  known: 'Draw along something whose length you know.',
  length: 'Draw along what you want to read off, in the same plane.',
  note: 'Press the spot the note is about.',
  bay: 'Press its corners: front left, front right, back right, back left.',
  obstacle: 'Draw from one corner of it to the opposite one; near walls and edges it is drawn to them.',
  wall: 'Draw along the inner edge of a wall, as far as it may be opened for a socket.',
}

const A_LENGTH = { label: 'Name of the length', hint: 'bay width' }
export const NAMES: Record<Exclude<Tool, 'pads'>, { label: string; hint: string }> = {
  known: A_LENGTH,
  length: A_LENGTH,
  bay: A_LENGTH,
  wall: A_LENGTH,
  note: { label: 'Note', hint: 'red wire to the switch' },
  obstacle: { label: 'What it is', hint: 'spring rib' },
}

export const TARGETS = [
  { label: 'bay length', value: 'gadget.bay.rooms.0.size_mm.0' },
  { label: 'bay width', value: 'gadget.bay.rooms.0.size_mm.1' },
  { label: 'bay height', value: 'gadget.bay.rooms.0.size_mm.2' },
  { label: 'tube diameter', value: 'gadget.bay.tube.diameter_mm' },
  { label: 'tube length', value: 'gadget.bay.tube.length_mm' },
  { label: 'outer length', value: 'gadget.shell.outer_mm.0' },
  { label: 'outer width', value: 'gadget.shell.outer_mm.1' },
  { label: 'outer height', value: 'gadget.shell.outer_mm.2' },
]
