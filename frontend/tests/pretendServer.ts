/** One conversion on a server that answers when the test says so. It shares nothing with the real one but addresses. */
import { vi } from 'vitest'

/** As much of a document as these tests look at. */
export type Shown = ReturnType<typeof aProject>

interface Sent {
  revision: number
  mine_counts: boolean
  document: Shown
}

/** A question under way: what was asked, and how it is answered. */
export interface Asked {
  method: string
  path: string
  body: Sent
  answer: (data: unknown, status?: number) => Promise<void>
}

/** All that is due now has happened: answers arrive in several turns. */
export async function settle(): Promise<void> {
  for (let turn = 0; turn < 20; turn += 1) await vi.advanceTimersByTimeAsync(0)
}

export function pretendServer() {
  const asked: Asked[] = []
  vi.stubGlobal('fetch', async (request: Request) => {
    const body = request.body ? ((await request.json()) as Sent) : ({} as Sent)
    return new Promise<Response>((resolve) => {
      const one: Asked = {
        method: request.method,
        path: new URL(request.url).pathname,
        body,
        answer: async (data, status = 200) => {
          asked.splice(asked.indexOf(one), 1)
          const headers = { 'content-type': status < 400 ? 'application/json' : 'application/problem+json' }
          resolve(new Response(JSON.stringify(data), { status, headers }))
          await settle()
        },
      }
      asked.push(one)
    })
  })

  const waiting = (method: string, end: string) =>
    asked.filter((one) => one.method === method && one.path.endsWith(end))

  return {
    waiting,
    /** The one question of this kind that waits for its answer. */
    async asked(method: string, end: string): Promise<Asked> {
      await settle()
      const [one, ...more] = waiting(method, end)
      if (!one || more.length)
        throw new Error(`${method} …${end}: ${more.length + (one ? 1 : 0)} wait, one was expected`)
      return one
    },
    /** Whatever the core is asked of the document meanwhile: it finds nothing. */
    async assessed(): Promise<void> {
      await settle()
      for (const one of [...waiting('POST', '/assess')])
        await one.answer({ assessment: { basis: {}, findings: [] }, refused: [] })
    },
  }
}

export type PretendServer = ReturnType<typeof pretendServer>

const MODE = (id: string, name: string) => ({ id, name, current_a: 0.02 })

export function aProject(name = 'Lamp') {
  return {
    gadget: { name, modes: [MODE('m1', 'lit')] },
    basis: {} as Record<string, string>,
    builds: [{ id: 'b1', name: 'first' }],
  }
}

export function stored(revision: number, project: Shown = aProject(), id = 1) {
  return { id, revision, project, refused: [], merged_from: null }
}
