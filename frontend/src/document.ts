/** Reading and writing one place of a project document by its dotted path ("gadget.modes.0.current_a"). */
import type { Basis, Project } from '@/api/client'

type Branch = Record<string, unknown>

export function valueAt(document: unknown, path: string): unknown {
  return path
    .split('.')
    .reduce<unknown>((value, step) => (value as Branch | null | undefined)?.[step], document)
}

/** Sets the value, making empty groups on the way where there are none. */
export function setAt(document: unknown, path: string, value: unknown): void {
  const steps = path.split('.')
  const last = steps.pop()!
  let branch = document as Branch
  for (const step of steps) branch = (branch[step] ??= {}) as Branch
  branch[last] = value
}

/** What is kept or put back together: of a measured triple ("size_mm.1") all three figures, else the place itself. */
export const wholeOf = (path: string): string => path.replace(/_mm\.\d+$/, '_mm')

/** Removes a row of a list, and moves what is noted about the later rows' origin along. */
export function removeRow(document: Project, listPath: string, index: number): void {
  ;(valueAt(document, listPath) as unknown[]).splice(index, 1)
  const moved: Record<string, Basis> = {}
  for (const [path, basis] of Object.entries(document.basis ?? {})) {
    const rest = path.startsWith(`${listPath}.`) ? path.slice(listPath.length + 1).split('.') : null
    const row = rest ? Number(rest[0]) : -1
    if (row === index) continue
    moved[rest && row > index ? [listPath, row - 1, ...rest.slice(1)].join('.') : path] = basis
  }
  document.basis = moved
}
