import { fileURLToPath, URL } from 'node:url'

import tailwindcss from '@tailwindcss/vite'
import vue from '@vitejs/plugin-vue'
import AutoImport from 'unplugin-auto-import/vite'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import Components from 'unplugin-vue-components/vite'
import { defineConfig } from 'vitest/config'

import { listedIn } from './words/listed.ts'
import { templateWords } from './words/templateWords.ts'

const listed = listedIn(fileURLToPath(new URL('../build/words.json', import.meta.url)))

export default defineConfig({
  plugins: [
    vue({ template: { compilerOptions: { nodeTransforms: [templateWords(listed.found)] } } }),
    listed.plugin,
    tailwindcss(),
    AutoImport({ resolvers: [ElementPlusResolver()], dts: 'src/auto-imports.d.ts' }),
    Components({ resolvers: [ElementPlusResolver()], dirs: [], dts: 'src/components.d.ts' }),
  ],
  resolve: { alias: { '@': fileURLToPath(new URL('src', import.meta.url)) } },
  build: {
    chunkSizeWarningLimit: 700,
    outDir: '../build/web',
    emptyOutDir: true,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: 'echarts', test: /echarts|zrender|vue-echarts/ },
            { name: 'element-plus', test: /element-plus|@element-plus/, priority: 2 },
            {
              name: 'vue',
              test: /node_modules[\\/](@vue|vue|pinia|vue-router|vue-i18n|@intlify)[\\/]/,
              priority: 3,
            },
          ],
        },
      },
    },
  },
  test: { environment: 'happy-dom', include: ['tests/**/*.test.ts'] },
  server: { proxy: { '/api': 'http://127.0.0.1:8431' } },
})
