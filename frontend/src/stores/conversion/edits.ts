/** Edits that may replace parts or rows: the core makes them, with what they mean for where values came from. */
import { api, sentenceOf, type Edit, type Finding } from '@/api/client'
import { plain, type Screen } from '@/stores/conversion/screen'

/** A document as the core has changed it, or why it has not. */
interface Remade {
  data?: { document: Record<string, unknown> }
  error?: unknown
}

export function useEdits(screen: Screen) {
  let remaking = Promise.resolve(true)

  /** One after the other, and once more on top of what was typed meanwhile, so that neither loses the other. False
   * where the core makes nothing, or another conversion has been opened. */
  function remake(ask: () => Promise<Remade>): Promise<boolean> {
    const mine = remaking.then(() => remakeNow(ask))
    remaking = mine
    return mine
  }

  async function remakeNow(ask: () => Promise<Remade>): Promise<boolean> {
    const from = screen.edits()
    const id = screen.stored.value?.id
    const { data, error } = await ask()
    if (screen.stored.value?.id !== id) return false
    if (data && from !== screen.edits()) return remakeNow(ask)
    if (data) screen.take(data.document)
    else screen.problem.value = sentenceOf(error)
    return Boolean(data)
  }

  const applyEdits = (changes: Edit[]) =>
    remake(() => api.POST('/api/questions/edited', { body: { document: screen.copy(), edits: changes } }))
  const put = (path: string, value: unknown) => applyEdits([{ path, value: plain(value) }])

  async function copyBuild(name: string, practice = false): Promise<void> {
    const build = () => String(screen.buildIndex.value)
    const copy = () => ({ document: screen.copy(), build: build(), name, practice })
    if (await remake(() => api.POST('/api/questions/build-copied', { body: copy() })))
      screen.choose(screen.document.value!.builds.length - 1)
  }

  return {
    applyEdits,
    put,
    copyBuild,
    apply: (remedy: NonNullable<Finding['remedy']>) => applyEdits(remedy.edits),
    addRow: (listPath: string, row: unknown) => put(`${listPath}.+`, row),
    removeRow: (listPath: string, index: number) => put(`${listPath}.${index}`, null),
    /** All edits so far have been made, or refused. */
    settled: () => remaking,
  }
}
