import { createRouter, createWebHistory } from 'vue-router'

import ShelfPage from '@/pages/ShelfPage.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'shelf', component: ShelfPage },
    {
      path: '/conversion/:id(\\d+)/compare',
      name: 'compare',
      component: () => import('@/pages/ComparePage.vue'),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    {
      path: '/conversion/:id(\\d+)/sheet',
      name: 'sheet',
      component: () => import('@/pages/SheetPage.vue'),
      props: (route) => ({ id: Number(route.params.id), build: Number(route.query.build ?? 0) }),
    },
    {
      path: '/conversion/:id(\\d+)/:station?',
      name: 'conversion',
      component: () => import('@/pages/ConversionPage.vue'),
      props: (route) => ({ id: Number(route.params.id), station: route.params.station || 'survey' }),
    },
    {
      path: '/drawers',
      name: 'drawers',
      component: () => import('@/pages/DrawersPage.vue'),
    },
    {
      path: '/rules',
      name: 'rules',
      component: () => import('@/pages/RulesPage.vue'),
    },
    {
      path: '/trainer',
      name: 'trainer',
      component: () => import('@/pages/TrainerPage.vue'),
    },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
