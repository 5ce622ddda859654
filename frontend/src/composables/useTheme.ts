/** Light or dark: the machine's wish until the maker says otherwise. */
import { useDark, useToggle } from '@vueuse/core'
import { computed } from 'vue'
import { t } from '@/words'

const dark = useDark({
  storageKey: 'pocket-spark-theme',
  // Keeping transitions off reads a style, and so lays the whole page out once more while it loads.
  disableTransition: false,
})
const toggleDark = useToggle(dark)

export function useTheme() {
  return {
    dark,
    toggle: () => void toggleDark(),
    label: computed(() => (dark.value ? t('Light colours') : t('Dark colours'))),
  }
}
