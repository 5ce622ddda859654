/**
 * The open conversion: the document as it stands on screen, what the core says of it, and its way to the server.
 *
 * Every edit goes to the core at once (latest answer wins) and is saved a moment later. What was typed stays on screen,
 * half-typed text too; the core reads round what it refuses, and says why beside it.
 */
import { defineStore } from 'pinia'

import { api, sentenceOf, type Project } from '@/api/client'
import { useNewest } from '@/composables/useNewest'
import { useBasis } from '@/stores/conversion/basis'
import { useEdits } from '@/stores/conversion/edits'
import { useJudgement } from '@/stores/conversion/judgement'
import { useNews } from '@/stores/conversion/news'
import { useSaving } from '@/stores/conversion/saving'
import { useScreen } from '@/stores/conversion/screen'
import { putRefused } from '@/stores/refusedTexts'
import { unsentOf, type Unsent } from '@/stores/unsent'

export const useConversion = defineStore('conversion', () => {
  const screen = useScreen()
  const judgement = useJudgement(screen)
  const basis = useBasis(screen, judgement)
  const edits = useEdits(screen)
  const saving = useSaving(screen, edits.settled)
  const { news, elsewhere } = useNews(screen, judgement, saving)
  const { stored, document, problem } = screen

  const opening = useNewest()
  /** False, and a sentence, where there is none; what was asked for meanwhile comes in its stead. */
  async function open(id: number): Promise<boolean> {
    // What was pressed or typed a moment ago in the one before.
    await Promise.allSettled(underWay)
    await edits.settled()
    await saving.save()
    const params = { path: { project_id: id } }
    // Both before anything is shown: an answer about what is stored would take away what was typed over it.
    const heard = await opening(
      Promise.all([api.GET('/api/projects/{project_id}', { params }), unsentOf(id)]),
    )
    if (!heard) return true
    const [{ data, error }, unsent] = heard
    if (!data) {
      problem.value = sentenceOf(error)
      return false
    }
    problem.value = ''
    screen.chooseAsBefore(id)
    judgement.forget()
    screen.show(data)
    if (unsent) takeUp(unsent)
    if (putRefused(id, document.value)) screen.touched()
    return true
  }

  /** What this device could not send: it goes on as it was typed, on the state that it was typed on. */
  function takeUp(unsent: Unsent): void {
    stored.value = { ...stored.value!, revision: unsent.revision }
    screen.put(unsent.document as unknown as Project)
    screen.touched()
  }

  const underWay = new Set<Promise<unknown>>()
  /** Work that asks first and then writes into the open conversion: no other one is opened before it is through. */
  async function within<T>(work: () => Promise<T>): Promise<T> {
    const mine = work()
    underWay.add(mine)
    try {
      return await mine
    } finally {
      underWay.delete(mine)
    }
  }

  /** What is typed in one field. */
  function edit(path: string, value: unknown): void {
    screen.write(path, value)
    basis.noteTyped(path)
    screen.touched()
  }

  return {
    stored,
    document,
    build: screen.build,
    buildIndex: screen.buildIndex,
    buildPath: screen.buildPath,
    problem,
    unsaved: screen.unsaved,
    choose: screen.choose,
    change: screen.change,
    edit,
    open,
    within,

    assessment: judgement.assessment,
    refused: judgement.refused,
    stale: judgement.stale,
    question: judgement.question,
    noteAnswer: judgement.noteAnswer,
    refusalAt: judgement.refusalAt,

    basisOf: basis.basisOf,
    setBasis: basis.setBasis,

    applyEdits: edits.applyEdits,
    apply: edits.apply,
    put: edits.put,
    addRow: edits.addRow,
    removeRow: edits.removeRow,
    copyBuild: edits.copyBuild,

    conflict: saving.conflict,
    save: saving.save,
    undo: saving.undo,
    redo: saving.redo,
    takeTheirs: saving.takeTheirs,
    keepMine: saving.keepMine,

    news,
    elsewhere,
  }
})
