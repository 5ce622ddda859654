/** What this device prints on: files laid out for other paper are not offered. */
import { useLocalStorage } from '@vueuse/core'

export type Paper = 'a4' | 'letter' | 'both'

export const usePaper = () => useLocalStorage<Paper>('pocket-spark-paper', 'both')
