import { createRouter, createWebHistory } from 'vue-router'

import ProjectsPage from '@/pages/shelf/ProjectsPage.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'projects', component: ProjectsPage },
    { path: '/new', name: 'begin', component: () => import('@/pages/begin/BeginPage.vue') },
    { path: '/clock', name: 'clock', component: () => import('@/pages/clock/ClockPage.vue') },
    { path: '/measuring', name: 'measuring', component: () => import('@/pages/GuidePage.vue') },
    {
      path: '/conversion/:id(\\d+)/compare',
      name: 'compare',
      component: () => import('@/pages/compare/ComparePage.vue'),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    {
      path: '/conversion/:id(\\d+)/proposals',
      name: 'proposals',
      component: () => import('@/pages/proposals/ProposalsPage.vue'),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    {
      path: '/conversion/:id(\\d+)/years',
      name: 'years',
      component: () => import('@/pages/life/LifePage.vue'),
      props: (route) => ({ id: Number(route.params.id), build: Number(route.query.build ?? 0) }),
    },
    {
      path: '/conversion/:id(\\d+)/what-if',
      name: 'what-if',
      component: () => import('@/pages/WhatIfPage.vue'),
      props: (route) => ({ id: Number(route.params.id), build: Number(route.query.build ?? 0) }),
    },
    {
      path: '/conversion/:id(\\d+)/shopping',
      name: 'shopping',
      component: () => import('@/pages/shopping/ShoppingPage.vue'),
      props: (route) => ({ id: Number(route.params.id), build: Number(route.query.build ?? 0) }),
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
      component: () => import('@/pages/conversion/ConversionPage.vue'),
      props: (route) => ({ id: Number(route.params.id), station: route.params.station || 'survey' }),
    },
    {
      path: '/accuracy',
      name: 'accuracy',
      component: () => import('@/pages/AccuracyPage.vue'),
    },
    {
      path: '/drawer',
      name: 'drawer',
      component: () => import('@/pages/DrawerPage.vue'),
    },
    {
      path: '/parts',
      name: 'parts',
      component: () => import('@/pages/parts/InventoryPage.vue'),
    },
    {
      path: '/c/:code',
      name: 'label',
      component: () => import('@/pages/parts/InventoryPage.vue'),
      props: (route) => ({ code: String(route.params.code) }),
    },
    {
      path: '/shopping',
      name: 'open-shopping',
      component: () => import('@/pages/shopping/OpenShoppingPage.vue'),
    },
    {
      path: '/rules',
      name: 'rules',
      component: () => import('@/pages/RulesPage.vue'),
    },
    {
      path: '/glossary',
      name: 'glossary',
      component: () => import('@/pages/GlossaryPage.vue'),
    },
    {
      path: '/settings',
      name: 'settings',
      component: () => import('@/pages/SettingsPage.vue'),
    },
    {
      path: '/safekeeping',
      name: 'safekeeping',
      component: () => import('@/pages/safekeeping/SafekeepingPage.vue'),
    },
    {
      path: '/trainer',
      name: 'trainer',
      component: () => import('@/pages/TrainerPage.vue'),
    },
    { path: '/:rest(.*)', name: 'nowhere', component: () => import('@/pages/NowherePage.vue') },
  ],
})
