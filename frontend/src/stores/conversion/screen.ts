/** The document as it stands on screen: what is stored of it, and what was typed since. */
import { createEventHook } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'

import type { Build, Project, StoredProject } from '@/api/client'
import { setAt } from '@/document'

export type Screen = ReturnType<typeof useScreen>

export function useScreen() {
  const stored = shallowRef<StoredProject>()
  const document = ref<Project>()
  const buildIndex = ref(0)
  const build = computed<Build | undefined>(() => document.value?.builds[buildIndex.value])
  const buildPath = computed(() => `builds.${buildIndex.value}`)
  const problem = ref('')
  const unsaved = ref(false)
  /** Another document is shown; this one was typed into; of either the core is to be asked. */
  const shows = createEventHook<void>()
  const touches = createEventHook<void>()
  const looks = createEventHook<void>()
  let edits = 0

  /** The build that was looked at stays chosen, where there still is one. */
  function put(shown: Project): void {
    document.value = shown
    buildIndex.value = Math.min(buildIndex.value, shown.builds.length - 1)
  }

  /** What is stored, in the place of whatever stood on screen. */
  function show(state: StoredProject): void {
    stored.value = state
    put(structuredClone(state.project))
    unsaved.value = false
    void shows.trigger()
    void looks.trigger()
  }

  function touched(): void {
    edits += 1
    unsaved.value = true
    void touches.trigger()
    void looks.trigger()
  }

  /** The document as the core has changed it. */
  function take(changed: Record<string, unknown>): void {
    put(changed as Project)
    touched()
  }

  /** Several fields that belong together: one look, one revision. */
  function change(mutate: (document: Project) => void): void {
    if (document.value) mutate(document.value)
    touched()
  }

  function write(path: string, value: unknown): void {
    setAt(document.value, path, value)
  }

  function choose(index: number): void {
    buildIndex.value = index
    // A reload comes back to the build that was looked at.
    if (stored.value) sessionStorage.setItem(buildOf(stored.value.id), String(index))
    void looks.trigger()
  }

  /** The build that was looked at the last time this conversion was open in this tab. */
  function chooseAsBefore(id: number): void {
    if (stored.value?.id !== id) buildIndex.value = Number(sessionStorage.getItem(buildOf(id)) ?? 0)
  }

  return {
    stored,
    document,
    build,
    buildIndex,
    buildPath,
    problem,
    unsaved,
    /** So often it was typed into: whoever waits for an answer sees whether it is about what stands there now. */
    edits: () => edits,
    copy: () => plain(document.value),
    show,
    put,
    take,
    change,
    write,
    touched,
    choose,
    chooseAsBefore,
    onShown: shows.on,
    onTouched: touches.on,
    onLook: looks.on,
    look: () => void looks.trigger(),
  }
}

const buildOf = (id: number) => `build-of-${id}`

export function plain(value: unknown) {
  return JSON.parse(JSON.stringify(value ?? null)) as Record<string, unknown>
}
