/**
 * The open conversion: the document as it stands on screen, what the core says of it, and its way to the shelf.
 *
 * Every edit goes to the core at once (latest answer wins) and is saved a moment later. A field the core refuses keeps
 * its text on screen with the sentence beside it; everything else is still assessed and saved.
 */
import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import {
  api,
  sentenceOf,
  type Assessment,
  type Basis,
  type Build,
  type Finding,
  type StoredProject,
  type Problem,
  type Project,
  type ProjectInput,
} from '@/api/client'
import { removeRow, setAt, valueAt, wholeOf } from '@/document'

const SAVE_AFTER_MS = 500

export const useConversion = defineStore('conversion', () => {
  const kept = shallowRef<StoredProject>()
  const document = ref<Project>()
  const buildIndex = ref(0)
  const assessment = shallowRef<Assessment>()
  const refused = ref<Record<string, string>>({})
  const problem = ref('')
  const conflict = ref(false)
  const unsaved = ref(false)

  let edits = 0
  let asked = 0
  let saving = Promise.resolve()

  const build = computed<Build | undefined>(() => document.value?.builds?.[buildIndex.value])
  const buildPath = computed(() => `builds.${buildIndex.value}`)

  // Opening ----------------------------------------------------------------------------------------------------

  async function open(id: number): Promise<boolean> {
    const { data, error } = await api.GET('/api/projects/{project_id}', {
      params: { path: { project_id: id } },
    })
    if (!data) {
      problem.value = sentenceOf(error)
      return false
    }
    problem.value = ''
    if (kept.value?.id !== id) buildIndex.value = 0
    assessment.value = undefined
    show(data)
    return true
  }

  function show(state: StoredProject): void {
    kept.value = state
    document.value = structuredClone(state.project)
    buildIndex.value = Math.min(buildIndex.value, (state.project.builds?.length ?? 1) - 1)
    refused.value = {}
    conflict.value = false
    unsaved.value = false
    void look()
  }

  // Looking: what does the core say of the document as it stands? ------------------------------------------------

  async function look(): Promise<void> {
    const mine = ++asked
    const document = snapshot()
    let answer = await ask(document)
    if (mine !== asked) return
    refused.value = refusals(answer.error)
    if (!answer.data && Object.keys(refused.value).length) {
      answer = await ask(withoutRefused(document))
      if (mine !== asked) return
    }
    if (answer.data) assessment.value = answer.data
    problem.value = answer.data || answer.error ? '' : sentenceOf(undefined)
  }

  async function ask(project: ProjectInput): Promise<{ data?: Assessment; error?: unknown }> {
    try {
      return await api.POST('/api/questions/assess', { body: { project, build: buildIndex.value } })
    } catch {
      return {}
    }
  }

  /** A plain copy; typed text may still stand where a number belongs, which the core reads or refuses. */
  function snapshot(): ProjectInput {
    return JSON.parse(JSON.stringify(document.value)) as ProjectInput
  }

  function refusals(error: unknown): Record<string, string> {
    const fields = (error as Problem | undefined)?.errors ?? []
    return Object.fromEntries(fields.map(({ field, sentence }) => [field, sentence]))
  }

  /** The document with each refused place as it was last kept. */
  function withoutRefused(project: ProjectInput): ProjectInput {
    for (const path of refusedWholes()) setAt(project, path, valueAt(kept.value?.project, path))
    return project
  }

  const refusedWholes = () => [...new Set(Object.keys(refused.value).map(wholeOf))]

  // Editing ----------------------------------------------------------------------------------------------------

  function edit(path: string, value: unknown): void {
    setAt(document.value, path, value)
    touched()
  }

  /** Several changes that belong together: one look, one revision. */
  function change(mutate: (document: Project) => void): void {
    if (document.value) mutate(document.value)
    touched()
  }

  function remove(listPath: string, index: number): void {
    change((document) => removeRow(document, listPath, index))
  }

  function basisOf(path: string): Basis {
    const noted = document.value?.basis?.[path]
    const value = valueAt(document.value, path)
    return noted ?? (value === null || value === undefined ? 'default' : 'label')
  }

  function setBasis(path: string, basis: Basis): void {
    change((document) => (document.basis = { ...document.basis, [path]: basis }))
  }

  /** What stands at a place now; `basis.…` leads to where a value came from. */
  function valueOf(path: string): unknown {
    return path.startsWith('basis.') ? document.value?.basis?.[path.slice(6)] : valueAt(document.value, path)
  }

  function apply(remedy: NonNullable<Finding['remedy']>): void {
    change((document) => {
      for (const { path, value } of remedy.edits) {
        if (path.startsWith('basis.')) document.basis = { ...document.basis, [path.slice(6)]: value as Basis }
        else setAt(document, path, value)
      }
    })
  }

  function choose(index: number): void {
    buildIndex.value = index
    void look()
  }

  function touched(): void {
    edits += 1
    unsaved.value = true
    void look()
    void saveSoon()
  }

  // Saving -----------------------------------------------------------------------------------------------------

  const saveSoon = useDebounceFn(() => save(), SAVE_AFTER_MS)

  /** Saves run one after the other: each starts from the revision the one before made. */
  function save(): Promise<void> {
    saving = saving.then(send)
    return saving
  }

  async function send(): Promise<void> {
    if (!unsaved.value || conflict.value || !kept.value) return
    const { id, revision } = kept.value
    const sent = edits
    const put = (project: ProjectInput) =>
      api.PUT('/api/projects/{project_id}', {
        params: { path: { project_id: id } },
        body: { revision, project },
      })
    try {
      let answer = await put(snapshot())
      if (answer.response.status === 422) {
        refused.value = refusals(answer.error)
        answer = await put(withoutRefused(snapshot()))
      }
      if (answer.response.status === 409) conflict.value = true
      else if (answer.data) accept(answer.data, sent)
      else problem.value = `Not saved: ${sentenceOf(answer.error)}`
    } catch {
      problem.value = `Not saved. ${sentenceOf(undefined)}`
    }
  }

  function accept(state: StoredProject, sent: number): void {
    kept.value = state
    problem.value = ''
    if (edits !== sent) return
    unsaved.value = false
    const typed = refusedWholes().map((path) => [path, valueAt(document.value, path)] as const)
    document.value = structuredClone(state.project)
    for (const [path, text] of typed) setAt(document.value, path, text)
  }

  async function step(direction: 'undo' | 'redo'): Promise<void> {
    await save()
    if (!kept.value || conflict.value) return
    const params = {
      params: { path: { project_id: kept.value.id } },
      body: { revision: kept.value.revision },
    }
    const { data, response } = await api.POST(`/api/projects/{project_id}/${direction}`, params)
    if (data) show(data)
    else if (response.status === 409) conflict.value = true
  }

  /** Two windows: show the other's state; ours stays nowhere but on this screen, so it is asked for first. */
  async function takeTheirs(): Promise<void> {
    const { data } = await fetchStored()
    if (data) show(data)
  }

  /** Two windows: save ours on top; theirs stays one undo below. */
  async function keepMine(): Promise<void> {
    const { data } = await fetchStored()
    if (!data) return
    kept.value = data
    conflict.value = false
    await save()
  }

  function fetchStored() {
    return api.GET('/api/projects/{project_id}', { params: { path: { project_id: kept.value!.id } } })
  }

  /** The document as it may be asked about: refused places as they were last kept. */
  const sendable = () => withoutRefused(snapshot())

  return {
    sendable,
    kept,
    document,
    build,
    buildIndex,
    buildPath,
    assessment,
    refused,
    problem,
    conflict,
    unsaved,
    open,
    edit,
    change,
    remove,
    basisOf,
    setBasis,
    apply,
    valueOf,
    choose,
    save,
    undo: () => step('undo'),
    redo: () => step('redo'),
    takeTheirs,
    keepMine,
  }
})
