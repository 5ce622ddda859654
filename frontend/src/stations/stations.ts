/** The component of each station, found by its room: `survey/SurveyStation.vue` is the one of "survey". */
import { defineAsyncComponent, type Component } from 'vue'

const files = import.meta.glob<{ default: Component }>('./*/*Station.vue')

export const STATION_COMPONENTS: Record<string, Component> = Object.fromEntries(
  Object.entries(files).map(([file, load]) => [keyOf(file), defineAsyncComponent(load)]),
)

function keyOf(file: string): string {
  return file.split('/')[1]!
}
