/**
 * What was typed and has not reached the server yet, kept on this device: a tab that is closed, or a server that is
 * down, takes nothing away. It is sent as made from the state that it was typed on, and put together there.
 */
import { createStore, del, entries, get, set, update } from 'idb-keyval'

import { api } from '@/api/client'

export interface Unsent {
  id: number
  name: string
  /** The saved state that it was typed on. */
  revision: number
  document: Record<string, unknown>
  /** Whose it is: another tab that has saved its own takes none of ours away. */
  tab: string
}

const tab = crypto.randomUUID()
let opened: ReturnType<typeof createStore> | undefined
// Opened at first use: a browser that forbids it has no such store, and types on.
const ours = () => (opened ??= createStore('pocket-spark', 'unsent'))

/** Without a place to keep it nothing is worse than before. */
async function quietly<T>(work: () => Promise<T>): Promise<T | undefined> {
  try {
    return await work()
  } catch {
    return undefined
  }
}

export const keepUnsent = (id: number, name: string, revision: number, document: Record<string, unknown>) =>
  quietly(() => set(id, { id, name, revision, document, tab } satisfies Unsent, ours()))

export const unsentOf = (id: number) => quietly(() => get<Unsent | null>(id, ours()))

/** Once it was sent, or given up; only what this tab has kept. */
export async function forgetUnsent(id: number): Promise<void> {
  await quietly(() => update<Unsent | null>(id, (kept) => (kept && kept.tab !== tab ? kept : null), ours()))
}

/** What closed tabs have left, sent from wherever the app is opened next. Back come those that could not be. */
export async function sendUnsent(): Promise<readonly Unsent[]> {
  const kept = (await quietly(() => entries<number, Unsent | null>(ours()))) ?? []
  const left: Unsent[] = []
  for (const [id, unsent] of kept) {
    if (!unsent || (await sent(unsent))) await quietly(() => del(id, ours()))
    else left.push(unsent)
  }
  return left
}

async function sent({ id, revision, document }: Unsent): Promise<boolean> {
  const params = { path: { project_id: id } }
  const { data, response } = await api.PUT('/api/projects/{project_id}', {
    params,
    body: { revision, document, mine_counts: false },
  })
  // What was half typed is still to be mended by hand; of one that was erased nobody can have it back.
  return (data !== undefined && !data.refused.length) || response.status === 404
}
