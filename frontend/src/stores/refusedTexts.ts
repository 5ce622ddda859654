/** What fields have refused is stored nowhere but on screen: this window keeps it until it is mended or undone. */
import { setAt, valueAt } from '@/document'

interface RefusedText {
  path: string
  typed: unknown
  /** What is stored there: where another device has changed it meanwhile, what was typed is about something else. */
  over: unknown
}

const key = (id: number) => `refused-of-${id}`

export function keepRefused(id: number, paths: readonly string[], document: unknown, stored: unknown): void {
  const texts = paths.map((path) => ({ path, typed: valueAt(document, path), over: valueAt(stored, path) }))
  if (texts.length) sessionStorage.setItem(key(id), JSON.stringify(texts))
  else sessionStorage.removeItem(key(id))
}

/** Puts it where it was typed. True where there was any. */
export function putRefused(id: number, document: unknown): boolean {
  const texts = JSON.parse(sessionStorage.getItem(key(id)) ?? '[]') as RefusedText[]
  const same = texts.filter(
    ({ path, over }) => JSON.stringify(valueAt(document, path)) === JSON.stringify(over),
  )
  for (const { path, typed } of same) setAt(document, path, typed)
  return same.length > 0
}
