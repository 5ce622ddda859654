/** Takes over what a log tells: with a line in the logbook, and what was predicted before kept beside it. */
import type { Edit, Prediction } from '@/api/client'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

export function useAdoption(told: { prediction: Prediction | null; from: string }) {
  const conversion = useConversion()

  return async function adopt(what: string, edits: readonly Edit[]): Promise<void> {
    const at = `${new Date().toISOString().slice(0, 19)}Z`
    const adopted = t('{what}, from {from}', { what, from: told.from }).slice(0, 300)
    const entry = { at, kind: 'measurement', station: 'prove', text: t('adopted {adopted}', { adopted }) }
    const all: Edit[] = [...edits, { path: 'logbook.+', value: entry }]
    if (told.prediction) {
      const before = { at, adopted, before: told.prediction }
      all.push({ path: `${conversion.buildPath}.record.predictions.+`, value: before })
    }
    await conversion.applyEdits(all)
  }
}
