/** One number field's text: what was typed while it is edited, the value in its unit otherwise. */
import { computed, ref, type MaybeRefOrGetter, toValue, watch } from 'vue'

import { useUnits } from '@/composables/useUnits'
import { inUnit, plain } from '@/format'
import { useConversion } from '@/stores/conversion'
import { valueAt } from '@/document'

/** A number, a fraction, or a whole number with a fraction: "62", "1,5", "7/16", "2 7/16". */
const BARE_NUMBER = /^[+-]?(\d+\s+)?[\d.,]+(\s*\/\s*[\d.,]+)?$/

/** A bare number is meant in the field's own unit; anything else is the core's to read. */
export function inItsUnit(input: string, unit: string): string {
  const trimmed = input.trim()
  return BARE_NUMBER.test(trimmed) ? `${trimmed} ${unit}` : trimmed
}

export function useQuantity(path: MaybeRefOrGetter<string>, ofUnit: MaybeRefOrGetter<string>) {
  const conversion = useConversion()
  const { here } = useUnits()
  const unit = computed(() => here(toValue(ofUnit)))
  const typed = ref<string>()
  let nudged: { number: number; text: string } | undefined

  const value = computed(() => valueAt(conversion.document, toValue(path)))
  const sentence = computed(() => conversion.refusalAt(toValue(path)))
  const text = computed(() => typed.value ?? shown(value.value))

  function shown(value: unknown): string {
    if (typeof value === 'number') return plain(inUnit(value, unit.value))
    return typeof value === 'string' ? value : ''
  }

  function type(input: string): void {
    awaited = false
    typed.value = input
    conversion.edit(toValue(path), inItsUnit(input, unit.value) || null)
  }

  /** Done editing: a text the core took is shown as the value it became; a refused one stays as typed.
   *
   * While more is being typed elsewhere it is no value yet, and stays as typed too: a text that changed under a hand
   * that came back would take its selection away. */
  async function settle(): Promise<void> {
    await conversion.save()
    if (sentence.value) return
    if (typeof value.value === 'string') awaited = true
    else release()
  }
  let awaited = false
  function release(): void {
    awaited = false
    typed.value = undefined
  }
  watch(value, (now) => {
    if (awaited && typeof now !== 'string') release()
  })

  /** One step up or down: the second figure of the number. What is still a text is read by the core first. */
  async function nudge(direction: 1 | -1): Promise<void> {
    if (typed.value !== undefined && typed.value !== nudged?.text) await settle()
    const now = nudged && nudged.text === typed.value ? nudged.number : shownNumber()
    if (now === undefined) return
    const step = now === 0 ? 1 : 10 ** (Math.floor(Math.log10(Math.abs(now))) - 1)
    const number = Math.max(0, now + direction * step)
    nudged = { number, text: plain(number) }
    type(nudged.text)
  }

  /** The number that the core made of it, in the unit of the field. */
  const shownNumber = () => (typeof value.value === 'number' ? inUnit(value.value, unit.value) : undefined)

  return { text, unit, sentence, type, settle, nudge, typed }
}
