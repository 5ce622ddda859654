/**
 * The open conversion: the document as it stands on screen, what the core says of it, and its way to the server.
 *
 * Every edit goes to the core at once (latest answer wins) and is saved a moment later. What was typed stays on screen,
 * half-typed text too; the core reads round what it refuses, and says why beside it.
 */
import { useDebounceFn, useEventListener, useIntervalFn, useTimeoutFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef, watch } from 'vue'

import {
  api,
  sentenceOf,
  type Assessment,
  type Basis,
  type Build,
  type Edit,
  type Finding,
  type Project,
  type RefusedField,
  type StoredProject,
} from '@/api/client'
import { canonical, groupsOf, isWithin, setAt, valueAt } from '@/document'
import { keepRefused, putRefused } from '@/stores/refusedTexts'
import { forgetUnsent, keepUnsent, unsentOf, type Unsent } from '@/stores/unsent'
import { useReference } from '@/stores/reference'
import { useNewest } from '@/composables/useNewest'
import { useUnits } from '@/composables/useUnits'
import { t } from '@/words'

const SAVE_AFTER_MS = 500
const TRY_AGAIN_MS = 3000
const PUT_AWAY = t(
  'This conversion was put into the archive. Restore it there; until then nothing is saved here.',
)
const NEWS_EVERY_MS = 2000
const NEWS_TOLD_MS = 6000
const STILL_TYPING_MS = 4000

/** A document as the core has changed it, or why it has not. */
interface Remade {
  data?: { document: Record<string, unknown> }
  error?: unknown
}

export const useConversion = defineStore('conversion', () => {
  const reference = useReference()
  const stored = shallowRef<StoredProject>()
  const document = ref<Project>()
  const buildIndex = ref(0)
  const assessment = shallowRef<Assessment>()
  const refused = ref<Record<string, string>>({})
  const problem = ref('')
  /** What the server says of a save that met another window's; empty where none did. */
  const conflict = ref('')
  const unsaved = ref(false)
  /** A moment ago changes of another device were taken in. */
  const news = ref(false)
  /** Each another text whenever photographs, or own parts, have changed, whoever changed them. */
  const elsewhere = ref({ photos: '', parts: '' })
  const { start: forgetNews } = useTimeoutFn(() => (news.value = false), NEWS_TOLD_MS, { immediate: false })
  /** Questions whose newest asking has no answer: what is shown of them is of an earlier state. */
  const unanswered = reactive(new Set<symbol>())
  const stale = computed(() => unanswered.size > 0)
  const assessing = Symbol('assess')

  let edits = 0
  let saving = Promise.resolve()

  const build = computed<Build | undefined>(() => document.value?.builds[buildIndex.value])
  const buildPath = computed(() => `builds.${buildIndex.value}`)

  // Opening ----------------------------------------------------------------------------------------------------

  const opening = useNewest()
  /** False, and a sentence, where there is none; what was asked for meanwhile comes in its stead. */
  async function open(id: number): Promise<boolean> {
    // What was pressed or typed a moment ago in the one before.
    await Promise.allSettled(underWay)
    await remaking
    await save()
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
    if (stored.value?.id !== id) buildIndex.value = Number(sessionStorage.getItem(`build-of-${id}`) ?? 0)
    assessment.value = undefined
    show(data)
    if (unsent) takeUp(unsent)
    if (putRefused(id, document.value)) touched()
    return true
  }

  /** What this device could not send: it goes on as it was typed, on the state that it was typed on. */
  function takeUp(unsent: Unsent): void {
    stored.value = { ...stored.value!, revision: unsent.revision }
    document.value = unsent.document as unknown as Project
    buildIndex.value = Math.min(buildIndex.value, document.value.builds.length - 1)
    touched()
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

  function show(state: StoredProject): void {
    stored.value = state
    document.value = structuredClone(state.project)
    buildIndex.value = Math.min(buildIndex.value, state.project.builds.length - 1)
    refused.value = {}
    conflict.value = ''
    unsaved.value = false
    void look()
  }

  // Asking: what does the core say of the document as it stands? -------------------------------------------------

  /** A plain copy of the document with half-typed text and all, and which build is meant. */
  function question() {
    return { document: plain(document.value), project_id: stored.value?.id, build: String(buildIndex.value) }
  }

  const newest = useNewest()
  async function look(): Promise<void> {
    const heard = await newest(api.POST('/api/questions/assess', { body: question() }))
    if (!heard) return
    const { data, error } = heard
    noteAnswer(assessing, Boolean(data))
    if (data) {
      assessment.value = data.assessment
      note(data.refused)
      problem.value = ''
    } else {
      problem.value = sentenceOf(error)
      lookAgain()
    }
  }

  function noteAnswer(question: symbol, answered: boolean): void {
    if (answered) unanswered.delete(question)
    else unanswered.add(question)
  }

  const { start: lookAgain } = useTimeoutFn(() => void look(), TRY_AGAIN_MS, { immediate: false })

  function note(fields: readonly RefusedField[]): void {
    refused.value = Object.fromEntries(fields.map(({ field, sentence }) => [field, sentence]))
    if (stored.value)
      keepRefused(stored.value.id, Object.keys(refused.value), document.value, stored.value.project)
  }

  /** Why the core refuses what stands at this place, or inside it. */
  function refusalAt(path: string, inside = false): string | undefined {
    const place = canonical(document.value, path)
    const found = refused.value[place]
    if (found || !inside) return found
    return Object.entries(refused.value).find(([field]) => field.startsWith(`${place}.`))?.[1]
  }

  // What it says is in the units of this device.
  const units = useUnits()
  watch([units.length, units.temperature, units.decimals], () => void (document.value && look()))

  // Editing ----------------------------------------------------------------------------------------------------

  /** What is typed in one field. */
  function edit(path: string, value: unknown): void {
    setAt(document.value, path, value)
    noteTyped(canonical(document.value, path))
    touched()
  }

  /** A figure that is typed over a guess, or over what was taken unasked, is none any more: measured where such fields are, printed elsewhere. */
  function noteTyped(place: string): void {
    if (!document.value) return
    const taken = groupsOf(place).find((group) => group in (document.value?.basis ?? {}))
    const isTaken = taken !== undefined && document.value.basis[taken] === 'default'
    if (basisOf(place) !== 'inferred' && !isTaken) return
    const measuring = isWithin(place, reference.tables?.measuring ?? [])
    document.value.basis = { ...document.value.basis, [place]: measuring ? 'measured' : 'label' }
  }

  /** What the core makes of the document: one after the other, and once more on top of what was typed meanwhile, so
   * that neither loses the other. False where it makes nothing, or another conversion has been opened. */
  function remake(ask: () => Promise<Remade>): Promise<boolean> {
    const mine = remaking.then(() => remakeNow(ask))
    remaking = mine
    return mine
  }
  let remaking = Promise.resolve(true)

  async function remakeNow(ask: () => Promise<Remade>): Promise<boolean> {
    const from = edits
    const id = stored.value?.id
    const { data, error } = await ask()
    if (stored.value?.id !== id) return false
    if (data && from !== edits) return remakeNow(ask)
    if (data) take(data.document)
    else problem.value = sentenceOf(error)
    return Boolean(data)
  }

  /** Edits that may replace parts or rows: the core makes them, with what they mean for where values came from. */
  const applyEdits = (changes: Edit[]) =>
    remake(() =>
      api.POST('/api/questions/edited', { body: { document: plain(document.value), edits: changes } }),
    )
  const apply = (remedy: NonNullable<Finding['remedy']>) => applyEdits(remedy.edits)
  const put = (path: string, value: unknown) => applyEdits([{ path, value: plain(value) }])
  const addRow = (listPath: string, row: unknown) => put(`${listPath}.+`, row)
  const removeRow = (listPath: string, index: number) => put(`${listPath}.${index}`, null)

  async function copyBuild(name: string, practice = false): Promise<void> {
    const copy = () => ({ document: plain(document.value), build: String(buildIndex.value), name, practice })
    if (await remake(() => api.POST('/api/questions/build-copied', { body: copy() })))
      choose(document.value!.builds.length - 1)
  }

  function take(changed: Record<string, unknown>): void {
    document.value = changed as Project
    buildIndex.value = Math.min(buildIndex.value, document.value.builds.length - 1)
    touched()
  }

  /** Several fields that belong together: one look, one revision. */
  function change(mutate: (document: Project) => void): void {
    if (document.value) mutate(document.value)
    touched()
  }

  function basisOf(path: string): Basis {
    const place = canonical(document.value, path)
    const noted = document.value?.basis ?? {}
    // Of a group that was noted a moment ago no answer has come yet.
    const isThere = valueAt(document.value, place) !== null
    const group = groupsOf(place).find((each) => each in noted && (isThere || each === place))
    return group ? noted[group]! : (assessment.value?.basis[place] ?? 'default')
  }

  function setBasis(path: string, basis: Basis): void {
    const place = canonical(document.value, path)
    change((document) => (document.basis = { ...document.basis, [place]: basis }))
  }

  function choose(index: number): void {
    buildIndex.value = index
    // A reload comes back to the build that was looked at.
    if (stored.value) sessionStorage.setItem(`build-of-${stored.value.id}`, String(index))
    void look()
  }

  function touched(): void {
    edits += 1
    unsaved.value = true
    keepHere()
    void look()
    void saveSoon()
  }

  /** On this device, until the server has it. */
  function keepHere(): void {
    if (!stored.value || !document.value) return
    const { id, revision } = stored.value
    void keepUnsent(id, document.value.gadget.name, revision, plain(document.value))
  }

  // Saving -----------------------------------------------------------------------------------------------------

  const saveSoon = useDebounceFn(() => save(), SAVE_AFTER_MS)
  const { start: saveAgain } = useTimeoutFn(() => void save(), TRY_AGAIN_MS, { immediate: false })

  /** Saves run one after the other: each starts from the revision the one before made. */
  function save(): Promise<void> {
    saving = saving.then(sendToServer)
    return saving
  }

  async function sendToServer(): Promise<void> {
    if (!unsaved.value || conflict.value || !stored.value) return
    const { id, revision } = stored.value
    const sent = edits
    const { data, error, response } = await api.PUT('/api/projects/{project_id}', {
      params: { path: { project_id: id } },
      body: { revision, document: plain(document.value), mine_counts: mineCounts },
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
    fields: readonly RefusedField[],
    sent: number,
    mergedFrom?: number | null,
  ): void {
    stored.value = mergedFrom && edits !== sent ? { ...state, revision: mergedFrom } : state
    problem.value = ''
    if (edits !== sent) return keepHere()
    unsaved.value = false
    void forgetUnsent(state.id)
    // What was refused was not stored: it stays on screen as it was typed.
    const typed = fields.map(({ field }) => [field, valueAt(document.value, field)] as const)
    document.value = structuredClone(state.project)
    for (const [path, text] of typed) if (text !== undefined) setAt(document.value, path, text)
  }

  /** After all that is under way: each step begins from where the one before came to. */
  async function step(direction: 'undo' | 'redo'): Promise<void> {
    await remaking
    saving = saving.then(sendToServer).then(() => stepNow(direction))
    return saving
  }

  async function stepNow(direction: 'undo' | 'redo'): Promise<void> {
    if (!stored.value || conflict.value) return
    const params = {
      params: { path: { project_id: stored.value.id } },
      body: { revision: stored.value.revision },
    }
    const sent = edits
    const { data, error, response } = await api.POST(`/api/projects/{project_id}/${direction}`, params)
    // What was typed meanwhile stays, and is saved as made from there.
    if (data && edits !== sent) stored.value = data
    else if (data) show(data)
    else if (response.status === 409) conflict.value = sentenceOf(error)
    else problem.value = sentenceOf(error)
  }

  /** Another device has saved: its changes are shown as they come, as long as nothing here waits to be saved. */
  async function lookForNews(): Promise<void> {
    if (!stored.value || unsaved.value || conflict.value || typing.value) return
    const { id, revision } = stored.value
    const params = { params: { path: { project_id: id } } }
    const { data: present, error, response } = await api.GET('/api/projects/{project_id}/revision', params)
    if (response.status === 404) problem.value = sentenceOf(error)
    if (!present) return
    if (present.archived) problem.value = PUT_AWAY
    else if (problem.value === PUT_AWAY) problem.value = ''
    elsewhere.value = { photos: `${id} ${present.photos}`, parts: present.parts }
    if (present.revision === revision) return
    const sent = edits
    const { data } = await fetchStored()
    if (
      !data ||
      stored.value?.id !== id ||
      stored.value.revision !== revision ||
      edits !== sent ||
      typing.value
    )
      return
    const fields = Object.entries(refused.value).map(([field, sentence]) => ({ field, sentence }))
    accept(data, fields, sent)
    news.value = true
    forgetNews()
    void look()
  }
  useIntervalFn(() => void lookForNews(), NEWS_EVERY_MS)

  /** Nobody's figures change under their hands: news waits while somebody types. */
  const { isPending: typing, start: typed } = useTimeoutFn(() => undefined, STILL_TYPING_MS, {
    immediate: false,
  })
  useEventListener(window, 'input', typed, { capture: true })

  /** Two windows: show the other's state; ours stays nowhere but on this screen, so it is asked for first. */
  async function takeTheirs(): Promise<void> {
    const { data } = await fetchStored()
    if (!data) return
    void forgetUnsent(data.id)
    show(data)
  }

  /** Two windows: of what both have changed ours is saved, and all else of theirs stays; theirs is one undo below. */
  async function keepMine(): Promise<void> {
    mineCounts = true
    conflict.value = ''
    await save()
  }
  let mineCounts = false

  function fetchStored() {
    return api.GET('/api/projects/{project_id}', { params: { path: { project_id: stored.value!.id } } })
  }

  return {
    stored,
    document,
    build,
    buildIndex,
    buildPath,
    assessment,
    refused,
    problem,
    conflict,
    news,
    elsewhere,
    unsaved,
    stale,
    noteAnswer,
    open,
    question,
    refusalAt,
    edit,
    applyEdits,
    apply,
    put,
    addRow,
    removeRow,
    copyBuild,
    change,
    basisOf,
    setBasis,
    choose,
    save,
    undo: () => step('undo'),
    redo: () => step('redo'),
    takeTheirs,
    keepMine,
    within,
  }
})

function plain(value: unknown) {
  return JSON.parse(JSON.stringify(value ?? null)) as Record<string, unknown>
}
