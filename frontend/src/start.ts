import '@fontsource/atkinson-hyperlegible-next/400.css'
import '@fontsource/atkinson-hyperlegible-next/600.css'
import '@fontsource/atkinson-hyperlegible-next/700.css'
import '@fontsource/atkinson-hyperlegible-mono/400.css'
// The house faces lack ohm and micro: those two come from this one.
import '@fontsource/source-sans-3/greek-400.css'
import '@fontsource/source-sans-3/greek-600.css'
import 'element-plus/theme-chalk/base.css'
import 'element-plus/theme-chalk/dark/css-vars.css'
import './look/theme.css'
import './look/house.css'
import './look/base.css'
import './look/targets.css'

import { promiseTimeout } from '@vueuse/core'
import { createPinia } from 'pinia'
import { createApp } from 'vue'

import App from './App.vue'
import { router } from './router'
import { words } from './words'

const app = createApp(App).use(createPinia()).use(words)
// Its first page in a task of its own, after all that was read so far.
const onItsWay = promiseTimeout(0).then(() => app.use(router))

/** The faces first: words that change their width after they are read push each other about. */
const FACES = ['400 14px', '600 14px', '700 14px'].map((face) => `${face} 'Atkinson Hyperlegible Next'`)
const AT_MOST_MS = 400
void Promise.race([
  Promise.allSettled(
    [...FACES, "14px 'Atkinson Hyperlegible Mono'"].map((face) => document.fonts.load(face)),
  ),
  new Promise((resolve) => setTimeout(resolve, AT_MOST_MS)),
])
  .then(() => onItsWay)
  .then(() => app.mount('#app'))
