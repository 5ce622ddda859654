/** Answers that come late, in another order, or never; two devices: nothing that was typed is lost, nothing said twice. */
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, afterEach, describe, expect, it, vi } from 'vitest'

import { useConversion } from '@/stores/conversion'
import type { Unsent } from '@/stores/unsent'

import { aProject, pretendServer, settle, stored, type PretendServer } from './pretendServer'

// The device's own memory of what was not sent is a database of the browser.
const kept = vi.hoisted(() => new Map<number, Unsent | null>())
vi.mock('idb-keyval', () => ({
  createStore: () => ({}),
  get: (key: number) => Promise.resolve(kept.get(key)),
  set: (key: number, value: Unsent) => Promise.resolve(kept.set(key, structuredClone(value))),
  update: (key: number, change: (old?: Unsent | null) => Unsent | null) =>
    Promise.resolve(kept.set(key, change(kept.get(key)))),
}))

const NAME = 'gadget.name'
const SOON = 600
let server: PretendServer

beforeEach(() => {
  vi.useFakeTimers()
  kept.clear()
  sessionStorage.clear()
  server = pretendServer()
  setActivePinia(createPinia())
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

async function open(id = 1, state = stored(1, aProject(), id)) {
  const conversion = useConversion()
  const opened = conversion.open(id)
  await (await server.asked('GET', `/projects/${id}`)).answer(state)
  await server.assessed()
  expect(await opened).toBe(true)
  return conversion
}

async function saveIsDue() {
  await vi.advanceTimersByTimeAsync(SOON)
  return server.asked('PUT', '/projects/1')
}

describe('asking', () => {
  it('shows the answer to what was typed last, whichever comes last', async () => {
    const conversion = await open()
    conversion.edit(NAME, 'L')
    await settle()
    const [first] = server.waiting('POST', '/assess')
    conversion.edit(NAME, 'La')
    await settle()
    const second = server.waiting('POST', '/assess').find((one) => one !== first)!
    await second.answer({ assessment: { basis: {}, of: 'La' }, refused: [] })
    await first!.answer({
      assessment: { basis: {}, of: 'L' },
      refused: [{ field: NAME, sentence: 'too short' }],
    })
    expect(conversion.assessment).toMatchObject({ of: 'La' })
    expect(conversion.refused).toEqual({})
  })

  it('is stale while no answer comes, and asks again by itself', async () => {
    const conversion = await open()
    conversion.edit(NAME, 'Torch')
    await (await server.asked('POST', '/assess')).answer({ detail: 'The server is down.' }, 503)
    expect(conversion.stale).toBe(true)
    await vi.advanceTimersByTimeAsync(3100)
    await server.assessed()
    expect(conversion.stale).toBe(false)
    expect(conversion.document!.gadget.name).toBe('Torch')
  })

  it('keeps what a field refused on screen, through a reload too', async () => {
    const conversion = await open()
    conversion.edit('gadget.modes.m1.current_a', 'much')
    const refused = [{ field: 'gadget.modes.m1.current_a', sentence: 'Enter a current.' }]
    await (await server.asked('POST', '/assess')).answer({ assessment: { basis: {} }, refused })
    expect(conversion.refusalAt('gadget.modes.0.current_a')).toBe('Enter a current.')
    expect(conversion.refusalAt('gadget.modes', true)).toBe('Enter a current.')
    await (await saveIsDue()).answer({ ...stored(2), refused })
    expect(conversion.document!.gadget.modes[0]!.current_a).toBe('much')
    setActivePinia(createPinia())
    const again = await open(1, stored(2))
    expect(again.document!.gadget.modes[0]!.current_a).toBe('much')
  })
})

describe('saving', () => {
  it('sends one save for all that is typed in half a second, from the state it was typed on', async () => {
    const conversion = await open()
    for (const text of ['T', 'To', 'Tor']) conversion.edit(NAME, text)
    const save = await saveIsDue()
    expect(save.body).toMatchObject({
      revision: 1,
      mine_counts: false,
      document: { gadget: { name: 'Tor' } },
    })
    await save.answer(stored(2, aProject('Tor')))
    expect(conversion.unsaved).toBe(false)
    expect(kept.get(1)).toBeNull()
  })

  it('lets nothing go that is typed while a save is under way', async () => {
    const conversion = await open()
    conversion.edit(NAME, 'Tor')
    const first = await saveIsDue()
    conversion.edit(NAME, 'Torch')
    await first.answer(stored(2, aProject('Tor')))
    expect(conversion.document!.gadget.name).toBe('Torch')
    expect(conversion.unsaved).toBe(true)
    expect((await saveIsDue()).body).toMatchObject({ revision: 2, document: { gadget: { name: 'Torch' } } })
  })

  it('saves one after the other', async () => {
    const conversion = await open()
    conversion.edit(NAME, 'Tor')
    const first = await saveIsDue()
    conversion.edit(NAME, 'Torch')
    await vi.advanceTimersByTimeAsync(SOON)
    expect(server.waiting('PUT', '/projects/1')).toEqual([first])
    await first.answer(stored(2, aProject('Tor')))
    expect((await server.asked('PUT', '/projects/1')).body.revision).toBe(2)
  })

  it('goes on from what was sent where a merge came back while somebody typed', async () => {
    const conversion = await open()
    conversion.edit(NAME, 'Tor')
    const first = await saveIsDue()
    conversion.edit(NAME, 'Torch')
    const theirs = { ...aProject('Tor'), builds: [{ id: 'b1', name: 'theirs' }] }
    await first.answer({ ...stored(3, theirs), merged_from: 1 })
    const { revision, document } = (await saveIsDue()).body
    // What is on screen knows nothing of theirs: it is made from the state before, and put together there once more.
    expect([revision, document.builds[0]!.name]).toEqual([1, 'first'])
  })

  it('keeps on the device what a server that is down cannot have, and tries again', async () => {
    const conversion = await open()
    conversion.edit(NAME, 'Torch')
    await (await saveIsDue()).answer({ detail: 'The server is down.' }, 503)
    expect(conversion.problem).toContain('Not saved yet')
    expect(kept.get(1)).toMatchObject({ revision: 1, document: { gadget: { name: 'Torch' } } })
    setActivePinia(createPinia())
    const again = await open()
    expect(again.document!.gadget.name).toBe('Torch')
    expect((await saveIsDue()).body).toMatchObject({ revision: 1, document: { gadget: { name: 'Torch' } } })
  })

  it('asks where two have changed the same, and sends nothing until it is said', async () => {
    const conversion = await open()
    conversion.edit(NAME, 'Torch')
    await (await saveIsDue()).answer({ detail: 'Changed in another window.' }, 409)
    expect(conversion.conflict).toContain('another window')
    conversion.edit(NAME, 'Torch 2')
    await vi.advanceTimersByTimeAsync(5000)
    expect(server.waiting('PUT', '/projects/1')).toEqual([])
    void conversion.keepMine()
    const mine = await server.asked('PUT', '/projects/1')
    expect(mine.body).toMatchObject({ mine_counts: true, document: { gadget: { name: 'Torch 2' } } })
    await mine.answer(stored(3, aProject('Torch 2')))
    conversion.edit(NAME, 'Torch 3')
    expect((await saveIsDue()).body.mine_counts).toBe(false)
  })

  it('shows theirs where that is wanted', async () => {
    const conversion = await open()
    conversion.edit(NAME, 'Torch')
    await (await saveIsDue()).answer({ detail: 'Changed in another window.' }, 409)
    void conversion.takeTheirs()
    await (await server.asked('GET', '/projects/1')).answer(stored(5, aProject('Lantern')))
    expect(conversion.document!.gadget.name).toBe('Lantern')
    expect([conversion.conflict, conversion.unsaved]).toEqual(['', false])
    expect(kept.get(1)).toBeNull()
  })
})

describe('undo', () => {
  it('saves first, and goes two steps for two presses', async () => {
    const conversion = await open()
    conversion.edit(NAME, 'Torch')
    void conversion.undo()
    void conversion.undo()
    await (await server.asked('PUT', '/projects/1')).answer(stored(2, aProject('Torch')))
    const first = await server.asked('POST', '/undo')
    expect(first.body.revision).toBe(2)
    await first.answer(stored(1))
    const second = await server.asked('POST', '/undo')
    expect(second.body.revision).toBe(1)
    await second.answer(stored(0, aProject('Older')))
    expect(conversion.document!.gadget.name).toBe('Older')
  })

  it('leaves what is typed while it is under way', async () => {
    const conversion = await open(1, stored(4))
    void conversion.undo()
    const undo = await server.asked('POST', '/undo')
    conversion.edit(NAME, 'Torch')
    await undo.answer(stored(3, aProject('Older')))
    expect(conversion.document!.gadget.name).toBe('Torch')
    expect((await saveIsDue()).body.revision).toBe(3)
  })
})

describe('edits that the core makes', () => {
  it('are made once more on top of what was typed meanwhile', async () => {
    const conversion = await open()
    const done = conversion.addRow('gadget.modes', { name: 'dim' })
    const first = await server.asked('POST', '/edited')
    conversion.edit(NAME, 'Torch')
    await first.answer({ document: { ...aProject(), said: 'too early' } })
    const second = await server.asked('POST', '/edited')
    expect(second.body.document.gadget.name).toBe('Torch')
    await second.answer({ document: { ...aProject('Torch'), said: 'again' } })
    expect(await done).toBe(true)
    expect(conversion.document).toMatchObject({ gadget: { name: 'Torch' }, said: 'again' })
  })

  it('follow one another, each on what the one before made', async () => {
    const conversion = await open()
    void conversion.put('gadget.name', 'A')
    void conversion.put('gadget.name', 'B')
    await (await server.asked('POST', '/edited')).answer({ document: aProject('A') })
    expect((await server.asked('POST', '/edited')).body.document.gadget.name).toBe('A')
  })

  it('never land in the conversion that is opened next', async () => {
    const conversion = await open()
    void conversion.addRow('gadget.modes', { name: 'dim' })
    const opened = conversion.open(2)
    expect(server.waiting('GET', '/projects/2')).toEqual([])
    await (await server.asked('POST', '/edited')).answer({ document: aProject('Lamp, two modes') })
    await (await server.asked('PUT', '/projects/1')).answer(stored(2, aProject('Lamp, two modes')))
    await (await server.asked('GET', '/projects/2')).answer(stored(1, aProject('Radio'), 2))
    expect(await opened).toBe(true)
    expect(conversion.document!.gadget.name).toBe('Radio')
    await vi.advanceTimersByTimeAsync(SOON)
    expect(server.waiting('PUT', '/projects/2')).toEqual([])
  })
})

describe('an edit that is asked for while another conversion is on its way', () => {
  it('is of the one that was pressed in, and changes nothing of the other', async () => {
    const conversion = await open()
    const opened = conversion.open(2)
    const other = await server.asked('GET', '/projects/2')
    const done = conversion.put('gadget.name', 'Late')
    const edited = await server.asked('POST', '/edited')
    await other.answer(stored(1, aProject('Radio'), 2))
    expect(await opened).toBe(true)
    await edited.answer({ document: aProject('Late') })
    expect(await done).toBe(false)
    expect(conversion.document!.gadget.name).toBe('Radio')
  })
})

describe('news of another device', () => {
  const present = { revision: 7, archived: false, photos: 'p', parts: 'q' }
  const tick = () => vi.advanceTimersByTimeAsync(2100)

  it('is taken in where nothing waits', async () => {
    const conversion = await open()
    await tick()
    await (await server.asked('GET', '/revision')).answer(present)
    await (await server.asked('GET', '/projects/1')).answer(stored(7, aProject('Lantern')))
    expect([conversion.document!.gadget.name, conversion.news]).toEqual(['Lantern', true])
    await vi.advanceTimersByTimeAsync(6100)
    expect(conversion.news).toBe(false)
  })

  it('waits while somebody types', async () => {
    await open()
    window.dispatchEvent(new Event('input'))
    await tick()
    expect(server.waiting('GET', '/revision')).toEqual([])
    await vi.advanceTimersByTimeAsync(4000)
    expect(server.waiting('GET', '/revision')).not.toEqual([])
  })

  it('takes nothing away that is typed while it comes', async () => {
    const conversion = await open()
    await tick()
    await (await server.asked('GET', '/revision')).answer(present)
    const theirs = await server.asked('GET', '/projects/1')
    conversion.edit(NAME, 'Torch')
    await theirs.answer(stored(7, aProject('Lantern')))
    expect([conversion.document!.gadget.name, conversion.news]).toEqual(['Torch', false])
  })

  it('says that it was put into the archive, for as long as it is there', async () => {
    const conversion = await open()
    await tick()
    await (await server.asked('GET', '/revision')).answer({ ...present, revision: 1, archived: true })
    expect(conversion.problem).toContain('archive')
    await tick()
    await (await server.asked('GET', '/revision')).answer({ ...present, revision: 1 })
    expect(conversion.problem).toBe('')
  })
})

describe('opening', () => {
  it('ends with what was asked for last', async () => {
    const conversion = await open()
    const one = conversion.open(2)
    const slow = await server.asked('GET', '/projects/2')
    const other = conversion.open(3)
    await (await server.asked('GET', '/projects/3')).answer(stored(1, aProject('Radio'), 3))
    await slow.answer(stored(1, aProject('Clock'), 2))
    expect(await Promise.all([one, other])).toEqual([true, true])
    expect(conversion.document!.gadget.name).toBe('Radio')
  })

  it('comes back to the build that was looked at', async () => {
    const two = { ...aProject(), builds: ['b1', 'b2'].map((id) => ({ id, name: id })) }
    const conversion = await open(1, stored(1, two))
    conversion.choose(1)
    setActivePinia(createPinia())
    expect((await open(1, stored(1, two))).build!.id).toBe('b2')
  })

  it('waits for work that asks first and then writes', async () => {
    const conversion = await open()
    let through!: () => void
    const work = conversion.within(async () => {
      await new Promise<void>((resolve) => (through = resolve))
      conversion.edit(NAME, 'Lamp with a picture')
    })
    void conversion.open(2)
    await settle()
    expect(server.waiting('GET', '/projects/2')).toEqual([])
    through()
    await work
    const save = await server.asked('PUT', '/projects/1')
    expect(save.body.document.gadget.name).toBe('Lamp with a picture')
  })
})

describe('where a value comes from', () => {
  it('is said by what was typed over a guess, and by hand', async () => {
    const guessed = { ...aProject(), basis: { 'gadget.modes.m1': 'inferred' } }
    const conversion = await open(1, stored(1, guessed))
    expect(conversion.basisOf('gadget.modes.0.current_a')).toBe('inferred')
    conversion.edit('gadget.modes.0.current_a', 0.03)
    expect(conversion.basisOf('gadget.modes.0.current_a')).toBe('label')
    conversion.setBasis('gadget.modes.0.current_a', 'measured')
    expect(conversion.document!.basis['gadget.modes.m1.current_a']).toBe('measured')
  })
})
