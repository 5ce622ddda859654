/**
 * One place of a project document by its dotted path. A row of a list is named by its id ("gadget.modes.mode1") or by
 * its number; whatever the server says of a place, it names by ids.
 */
type Branch = Record<string, unknown>

function rowOf(rows: unknown[], step: string): number {
  if (/^\d+$/.test(step)) return Number(step)
  return rows.findIndex((row) => (row as Branch | null)?.id === step)
}

function down(branch: unknown, step: string): unknown {
  if (Array.isArray(branch)) return (branch as unknown[])[rowOf(branch, step)]
  return (branch as Branch | null | undefined)?.[step]
}

export function valueAt(document: unknown, path: string): unknown {
  return path.split('.').reduce(down, document)
}

/** What is typed in a field, where it is a number already. */
export const numberOf = (typed: unknown): number | undefined =>
  typeof typed === 'number' ? typed : undefined

/** What is typed in fields that belong together, where all of it is numbers already. */
export function numbersOf(typed: readonly unknown[] | null | undefined): readonly number[] | undefined {
  return typed?.every((one) => typeof one === 'number') ? typed : undefined
}

/** The same path with every row named by its id. */
export function canonical(document: unknown, path: string): string {
  let branch = document
  return path
    .split('.')
    .map((step) => {
      const below = down(branch, step)
      const name = Array.isArray(branch) ? ((below as Branch | null | undefined)?.id as string) || step : step
      branch = below
      return name
    })
    .join('.')
}

/** The place itself, then every group that it lies in, innermost first. */
export function groupsOf(path: string): string[] {
  const steps = path.split('.')
  return steps.map((_, n) => steps.slice(0, steps.length - n).join('.'))
}

/** Is this place one of these, or inside one? A star in them stands for any row. */
export function isWithin(path: string, places: readonly string[]): boolean {
  const steps = path.split('.')
  return places.some((place) =>
    place.split('.').every((one, n) => n < steps.length && [steps[n], '*'].includes(one)),
  )
}

/** Puts what was typed in its place, making empty groups on the way where there are none. */
export function setAt(document: unknown, path: string, value: unknown): void {
  const steps = path.split('.')
  const last = steps.pop()!
  let branch = document
  for (const step of steps) {
    let below = down(branch, step)
    if (below === null || below === undefined) (branch as Branch)[step] = below = {}
    branch = below
  }
  if (Array.isArray(branch)) (branch as unknown[])[rowOf(branch, last)] = value
  else (branch as Branch)[last] = value
}
