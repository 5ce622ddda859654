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
import { useOnce } from '@/composables/useOnce'

export type InventoryKind = OwnPart['kind']
/** A part as its body, or as what was typed field by field. */
type Typed = { body: Record<string, unknown> } | { texts: Record<string, string> }

export const useInventory = defineStore('inventory', () => {
  const parts = shallowRef<OwnPart[]>([])
  const matches = shallowRef<CellMatch[]>([])
  const problem = ref('')
  const refused = ref<Record<string, string>>({})

  async function load(): Promise<void> {
    const [all, pairs] = await Promise.all([api.GET('/api/inventory'), api.GET('/api/inventory/matches')])
    parts.value = all.data ?? []
    matches.value = pairs.data ?? []
  }

  async function settle(error: unknown): Promise<boolean> {
    const fields = (error as Problem | undefined)?.errors ?? []
    refused.value = Object.fromEntries(fields.map(({ field, sentence }) => [field, sentence]))
    problem.value = error ? sentenceOf(error) : ''
    // After a conflict too: what another window saved is shown, what was typed here stays in its fields.
    if (!error || (error as Problem).status === 409) await load()
    return !error
  }

  async function add(kind: InventoryKind, part: Typed, stock: number): Promise<boolean> {
    const { error } = await api.POST('/api/inventory', { body: { kind, ...part, stock } })
    return settle(error)
  }

  async function change(part: OwnPart, changed: Typed, stock: number): Promise<boolean> {
    const { error } = await api.PUT('/api/inventory/{part_id}', {
      params: { path: { part_id: part.id } },
      body: { kind: part.kind, ...changed, stock, revision: part.revision },
    })
    return settle(error)
  }

  async function remove(part: OwnPart): Promise<boolean> {
    const params = { path: { part_id: part.id } }
    const { error, response } = await api.DELETE('/api/inventory/{part_id}', { params })
    // Gone already, by a second press or by another device, is what was asked for.
    return settle(response.status === 404 ? undefined : error)
  }

  /** A copy for a build that remembers where it came from. */
  const asCell = (part: OwnPart): Cell =>
    ({ ...JSON.parse(JSON.stringify(part.cell)), inventory_id: part.id }) as Cell
  const asBoard = (part: OwnPart): Board =>
    ({ ...JSON.parse(JSON.stringify(part.board)), inventory_id: part.id }) as Board

  /** Own boards in the shape of the library's parts, so that both stand in one list. */
  const asParts = (kind?: InventoryKind): Part[] =>
    parts.value
      .filter((part) => part.board && (!kind || part.kind === kind))
      .map((part) => ({
        id: `inventory-${part.id}`,
        kind: part.kind as Part['kind'],
        board: asBoard(part),
        cell: null,
        called: part.board!.name,
        says: part.says,
        pack: '',
      }))

  const cells = computed(() => parts.value.filter((part) => part.cell))

  const once = { add: useOnce(add), change: useOnce(change) }
  return { parts, matches, problem, refused, cells, load, ...once, remove, asCell, asParts }
})
