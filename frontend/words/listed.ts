/** Every text of the page, in build/words.json after a build: what the catalogues in src/locales are made of. */
import { mkdirSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'

import type { Plugin } from 'vite'

/** `t('…')` and `t("…")` of scripts; a text with figures in it has names in braces. */
const ASKED = /\bt\(\s*(?:'((?:[^'\\]|\\.)*)'|"((?:[^"\\]|\\.)*)")/g

export function listedIn(file: string): { found: (text: string) => void; plugin: Plugin } {
  const texts = new Set<string>()
  return {
    found: (text) => texts.add(text),
    plugin: {
      name: 'words',
      // Tests go through a few files only.
      apply: (_, { command }) => command === 'build',
      enforce: 'pre',
      transform(code, id) {
        if (!/\/src\/.*\.(ts|vue)$/.test(id)) return
        for (const [, single, double] of code.matchAll(ASKED))
          texts.add((single ?? double ?? '').replace(/\\(.)/g, '$1'))
      },
      closeBundle() {
        mkdirSync(dirname(file), { recursive: true })
        writeFileSync(file, JSON.stringify([...texts].sort(), null, 1))
      },
    },
  }
}
