/** Names of the stations, and the component of each that works. */
import type { Component } from 'vue'
import { defineAsyncComponent } from 'vue'

import type { Station } from '@/api/client'

export const STATION_NAMES: Record<Station, string> = {
  survey: 'Survey',
  cell: 'Cell',
  power: 'Power',
  charge: 'Charge',
  fit: 'Fit',
  wire: 'Wire',
  build: 'Build',
  prove: 'Prove',
}

export const STATION_COMPONENTS: Record<Station, Component> = {
  survey: defineAsyncComponent(() => import('./SurveyStation.vue')),
  cell: defineAsyncComponent(() => import('./CellStation.vue')),
  power: defineAsyncComponent(() => import('./PowerStation.vue')),
  charge: defineAsyncComponent(() => import('./ChargeStation.vue')),
  fit: defineAsyncComponent(() => import('./FitStation.vue')),
  wire: defineAsyncComponent(() => import('./WireStation.vue')),
  build: defineAsyncComponent(() => import('./BuildStation.vue')),
  prove: defineAsyncComponent(() => import('./ProveStation.vue')),
}
