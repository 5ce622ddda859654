/**
 * The language of this device. Templates say English, and the build looks it up (words/templateWords.ts); scripts ask
 * `t`. A language is a file in locales/, loaded before anything is shown; to change it the page is loaded anew.
 */
import { createI18n } from 'vue-i18n'

const catalogues = import.meta.glob<Record<string, string>>('./locales/*.json', { import: 'default' })
const KEPT_AS = 'pocket-spark-language'

/** Codes of ISO 639-1, English first. */
export const languages: string[] = [
  'en',
  ...Object.keys(catalogues).map((file) => /(\w+)\.json$/.exec(file)![1]!),
]

/** As it was picked here, else the first of the browser's that there is. */
function wanted(): string {
  const picked = localStorage.getItem(KEPT_AS)
  const asked = picked ? [picked] : navigator.languages.map((name) => name.split('-')[0]!)
  return asked.find((name) => languages.includes(name)) ?? 'en'
}
export const language = wanted()

export const words = createI18n({
  legacy: false,
  locale: language,
  // A text that no catalogue has is read as it is written.
  fallbackFormat: true,
  missingWarn: false,
  fallbackWarn: false,
  // Entries are whole texts: no dot in one leads anywhere.
  messageResolver: (catalogue, text) => (catalogue as Record<string, string>)[text] ?? null,
})

/** A text of the page in the reader's language, with what stands for the names in it. */
export const t = (text: string, values: Record<string, unknown> = {}): string => words.global.t(text, values)

export async function loadWords(): Promise<void> {
  document.documentElement.lang = language
  const catalogue = catalogues[`./locales/${language}.json`]
  if (catalogue) words.global.setLocaleMessage(language, await catalogue())
}

export function pickLanguage(code: string): void {
  localStorage.setItem(KEPT_AS, code)
  location.reload()
}

/** "Deutsch": each language by its own name. */
export const nameOf = (code: string): string =>
  new Intl.DisplayNames([code], { type: 'language' }).of(code) ?? code
