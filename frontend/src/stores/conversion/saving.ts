/** The way of the document to the server: one save after the other, half a second after the last change. */
import { useDebounceFn, useTimeoutFn } from '@vueuse/core'
import { ref } from 'vue'

import { api, sentenceOf, type RefusedField, type StoredProject } from '@/api/client'
import { setAt, valueAt } from '@/document'
import type { Screen } from '@/stores/conversion/screen'
import { forgetUnsent, keepUnsent } from '@/stores/unsent'
import { t } from '@/words'

const SAVE_AFTER_MS = 500
const TRY_AGAIN_MS = 3000

export type Saving = ReturnType<typeof useSaving>

/** `settled`: what else is under way and has to be in the document before a step back or forth. */
export function useSaving(screen: Screen, settled: () => Promise<unknown>) {
  const { stored, document, unsaved, problem } = screen
  /** What the server says of a save that met another window's; empty where none did. */
  const conflict = ref('')
  let saving = Promise.resolve()
  let mineCounts = false

  const saveSoon = useDebounceFn(() => save(), SAVE_AFTER_MS)
  const { start: saveAgain } = useTimeoutFn(() => void save(), TRY_AGAIN_MS, { immediate: false })
  screen.onShown(() => (conflict.value = ''))
  screen.onTouched(() => {
    keepHere()
    void saveSoon()
  })

  /** On this device, until the server has it. */
  function keepHere(): void {
    if (!stored.value || !document.value) return
    const { id, revision } = stored.value
    void keepUnsent(id, document.value.gadget.name, revision, screen.copy())
  }

  /** Saves run one after the other: each starts from the revision the one before made. */
  function save(): Promise<void> {
    saving = saving.then(sendToServer)
    return saving
  }

  async function sendToServer(): Promise<void> {
    if (!unsaved.value || conflict.value || !stored.value) return
    const { id, revision } = stored.value
    const sent = screen.edits()
    const { data, error, response } = await api.PUT('/api/projects/{project_id}', {
      params: { path: { project_id: id } },
      body: { revision, document: screen.copy(), mine_counts: mineCounts },
    })
    if (data) mineCounts = false
    if (data) accept(data, data.refused, sent, data.merged_from)
    else if (response.status === 409) conflict.value = sentenceOf(error)
    else {
      problem.value = t('Not saved yet. {why}', { why: sentenceOf(error) })
      // Restored, it is saved after all.
      if (response.status >= 500 || response.status === 410) saveAgain()
    }
  }

  /** `mergedFrom`: another device's changes are in it. Not on screen while somebody goes on typing, so the next save
   * begins from what was sent, and finds them again. */
  function accept(
    state: StoredProject,
    fields: readonly Pick<RefusedField, 'field'>[],
    sent: number,
    mergedFrom?: number | null,
  ): void {
    const isBehind = screen.edits() !== sent
    stored.value = mergedFrom && isBehind ? { ...state, revision: mergedFrom } : state
    problem.value = ''
    if (isBehind) return keepHere()
    unsaved.value = false
    void forgetUnsent(state.id)
    // What was refused was not stored: it stays on screen as it was typed.
    const typed = fields.map(({ field }) => [field, valueAt(document.value, field)] as const)
    document.value = structuredClone(state.project)
    for (const [path, text] of typed) if (text !== undefined) setAt(document.value, path, text)
  }

  /** After all that is under way: each step begins from where the one before came to. */
  async function step(direction: 'undo' | 'redo'): Promise<void> {
    await settled()
    saving = saving.then(sendToServer).then(() => stepNow(direction))
    return saving
  }

  async function stepNow(direction: 'undo' | 'redo'): Promise<void> {
    if (!stored.value || conflict.value) return
    const { id, revision } = stored.value
    const params = { params: { path: { project_id: id } }, body: { revision } }
    const sent = screen.edits()
    const { data, error, response } = await api.POST(`/api/projects/{project_id}/${direction}`, params)
    // What was typed meanwhile stays, and is saved as made from there.
    if (data && screen.edits() !== sent) stored.value = data
    else if (data) screen.show(data)
    else if (response.status === 409) conflict.value = sentenceOf(error)
    else problem.value = sentenceOf(error)
  }

  /** Two windows: show the other's state; ours stays nowhere but on this screen, so it is asked for first. */
  async function takeTheirs(): Promise<void> {
    const { data } = await fetchStored()
    if (!data) return
    void forgetUnsent(data.id)
    screen.show(data)
  }

  /** Two windows: of what both have changed ours is saved, and all else of theirs stays; theirs is one undo below. */
  async function keepMine(): Promise<void> {
    mineCounts = true
    conflict.value = ''
    await save()
  }

  function fetchStored() {
    return api.GET('/api/projects/{project_id}', { params: { path: { project_id: stored.value!.id } } })
  }

  return {
    conflict,
    save,
    accept,
    fetchStored,
    takeTheirs,
    keepMine,
    undo: () => step('undo'),
    redo: () => step('redo'),
  }
}
