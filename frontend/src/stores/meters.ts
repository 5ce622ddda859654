/** The maker's real meters: which are connected, what each shows. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import {
  api,
  sentenceOf,
  type MeterConnection,
  type MeterToKeep,
  type RealMeters,
  type ShownNow,
} from '@/api/client'
import { t } from '@/words'

export type MeterFigure = MeterConnection['reads'][number]

/** Fields as the form calls them. */
const FIELDS: Record<string, string> = {
  name: t('Name'),
  address: t('Address'),
  resolution_v: t('Last digit of volts'),
  resolution_a: t('Last digit of amps'),
}

export const useMeters = defineStore('meters', () => {
  const offer = shallowRef<RealMeters>()
  const problem = ref('')
  const connections = computed(() => offer.value?.connections ?? [])

  async function load(): Promise<void> {
    offer.value = (await api.GET('/api/instruments/meters')).data ?? offer.value
  }
  async function loadOnce(): Promise<void> {
    if (!offer.value) await load()
  }
  async function keep(connection: MeterToKeep): Promise<boolean> {
    const { error } = await api.PUT('/api/instruments/meters', { body: connection })
    const refused = error?.errors?.[0]
    const label = refused && FIELDS[refused.field]
    problem.value = label ? `${label}: ${refused.sentence}` : error ? sentenceOf(error) : ''
    await load()
    return !error
  }
  async function remove(name: string): Promise<void> {
    const { error } = await api.POST('/api/instruments/meters/removed', { body: { name } })
    problem.value = error ? sentenceOf(error) : ''
    await load()
  }
  /** What it shows now; nothing, and a sentence in `problem`, where nothing comes. */
  async function read(connection: MeterConnection): Promise<ShownNow | undefined> {
    const { data, error } = await api.POST('/api/instruments/meters/reading', { body: connection })
    problem.value = error ? sentenceOf(error) : ''
    return data
  }
  return { offer, problem, connections, load, loadOnce, keep, remove, read }
})
