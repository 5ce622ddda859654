/** A short walk over an open conversion: left whenever one likes, and found again where it was left. */
import { createSharedComposable, useStorage } from '@vueuse/core'
import { computed } from 'vue'

import type { Station } from '@/api/client'
import { t } from '@/words'

export interface TourStop {
  /** What is shown, by its place on the page or by several, of which one is seen; and the station where it is to be seen, if it is one alone. */
  place: string
  station?: Station
  title: string
  text: string
}

export const TOUR: readonly TourStop[] = [
  {
    place: '.chain',
    title: t('The chain'),
    text: t(
      'From the plug to the gadget: volts over each wire, amps under it, and a mark where something is wrong. Press a part to go where it is chosen.',
    ),
  },
  {
    place: '.strip',
    title: t('Eight stations'),
    text: t('In the order of the job. The keys 1 to 8 go there too, and a mark tells what still waits.'),
  },
  {
    place: '.station .basis',
    station: 'survey',
    title: t('Where a number came from'),
    text: t(
      'Measured, read off a label, or guessed: the word beside it says so, and a press changes it. What rests on a guess is told as assumed.',
    ),
  },
  {
    place: '.findings, .findings-toggle',
    station: 'charge',
    title: t('What is said of it'),
    text: t(
      'Stops first, then what belongs to this station. Press a sentence to see why it is said and what to do; a framed button does it for you.',
    ),
  },
  {
    place: '.station',
    station: 'fit',
    title: t('Will it go in'),
    text: t(
      'The measures on the drawing are fields: type what the calipers say. Parts and what stands in the way are dragged.',
    ),
  },
  {
    place: '.station',
    station: 'build',
    title: t('At the bench'),
    text: t(
      'One step after the other, each with the reading that lets you go on. A paired phone shows the same.',
    ),
  },
  {
    place: 'header a[href$="/proposals"], .more',
    title: t('Builds by themselves'),
    text: t(
      'Every cell and board that is sold, tried in this gadget: the best dozen, and what each wish would cost.',
    ),
  },
]

export const useTour = createSharedComposable(() => {
  const walk = useStorage('tour', { on: false, at: 0 })
  const stop = computed(() => (walk.value.on ? TOUR[walk.value.at] : undefined))
  const begun = computed(() => walk.value.at > 0)

  const begin = () => (walk.value = { on: true, at: walk.value.at })
  const leave = () => (walk.value = { on: false, at: walk.value.at })
  const back = () => (walk.value = { on: true, at: Math.max(0, walk.value.at - 1) })
  function next(): void {
    const at = walk.value.at + 1
    walk.value = at < TOUR.length ? { on: true, at } : { on: false, at: 0 }
  }

  return { walk, stop, begun, begin, leave, next, back }
})
