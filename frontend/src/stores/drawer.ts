/** The maker's own parts. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import {
  api,
  sentenceOf,
  type Board,
  type Cell,
  type CellMatch,
  type OwnPart,
  type Part,
  type Problem,
} from '@/api/client'

export type DrawerKind = OwnPart['kind']

export const useDrawer = defineStore('drawer', () => {
  const parts = shallowRef<OwnPart[]>([])
  const matches = shallowRef<CellMatch[]>([])
  const trouble = ref('')
  const refused = ref<Record<string, string>>({})

  async function load(): Promise<void> {
    const [all, pairs] = await Promise.all([api.GET('/api/drawer'), api.GET('/api/drawer/matches')])
    parts.value = all.data ?? []
    matches.value = pairs.data ?? []
  }

  async function settle(error: unknown): Promise<boolean> {
    const fields = (error as Problem | undefined)?.errors ?? []
    refused.value = Object.fromEntries(
      fields.map(({ field, sentence }) => [field.replace(/^body\./, ''), sentence]),
    )
    trouble.value = error ? sentenceOf(error) : ''
    if (!error) await load()
    return !error
  }

  async function add(kind: DrawerKind, body: Record<string, unknown>, stock: number): Promise<boolean> {
    const { error } = await api.POST('/api/drawer', { body: { kind, body, stock } })
    return settle(error)
  }

  async function change(part: OwnPart, body: Record<string, unknown>, stock: number): Promise<boolean> {
    const { error } = await api.PUT('/api/drawer/{part_id}', {
      params: { path: { part_id: part.id } },
      body: { kind: part.kind, body, stock },
    })
    return settle(error)
  }

  async function remove(part: OwnPart): Promise<boolean> {
    const { error } = await api.DELETE('/api/drawer/{part_id}', { params: { path: { part_id: part.id } } })
    return settle(error)
  }

  /** A copy for a build that remembers where it came from. */
  const asCell = (part: OwnPart): Cell =>
    ({ ...JSON.parse(JSON.stringify(part.cell)), drawer_id: part.id }) as Cell
  const asBoard = (part: OwnPart): Board =>
    ({ ...JSON.parse(JSON.stringify(part.board)), drawer_id: part.id }) as Board

  /** Boards of the drawer in the shape of the library's parts, so that both stand in one list. */
  const asParts = (kind?: DrawerKind): Part[] =>
    parts.value
      .filter((part) => part.board && (!kind || part.kind === kind))
      .map((part) => ({
        id: `drawer-${part.id}`,
        kind: part.kind as Part['kind'],
        board: asBoard(part),
        cell: null,
      }))

  const cells = computed(() => parts.value.filter((part) => part.cell))

  return { parts, matches, trouble, refused, cells, load, add, change, remove, asCell, asParts }
})
