<script setup lang="ts">
/** What ruled out the rest, station by station; and, where cautions are minded, which of them may be fine after all. */
import { computed } from 'vue'

import type { ProposalSearch } from '@/api/client'
import { counted } from '@/format'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const props = defineProps<{ search: ProposalSearch; fine: string[] }>()
const emit = defineEmits<{ fine: [codes: string[]] }>()

const reference = useReference()
const stations = computed(() => {
  const order = ['', ...(reference.tables?.stations ?? []).map((station) => station.value)]
  return order
    .map((key) => {
      const lines = props.search.fell.filter((one) => one.station === key)
      const label = key ? reference.labelOf(reference.tables?.stations, key) : t('Beaten, or not as wished')
      return { key, label, lines, count: lines.reduce((sum, line) => sum + line.count, 0) }
    })
    .filter((station) => station.count)
    .sort((a, b) => b.count - a.count)
})
const most = computed(() => Math.max(1, ...stations.value.map((station) => station.count)))

function turn(code: string): void {
  const others = props.fine.filter((one) => one !== code)
  emit('fine', others.length < props.fine.length ? others : [...props.fine, code])
}
</script>

<template>
  <template v-if="search.minded.length || fine.length">
    <h2>Be careful of</h2>
    <ul class="m-0 mb-12 p-0 list-none">
      <li v-for="one in search.minded" :key="one.code" class="mb-6">
        <label>
          <input type="checkbox" :checked="fine.includes(one.code)" @change="turn(one.code)" />
          fine all the same: <span class="quiet">{{ one.says }}</span> ({{ counted(one.count) }})
        </label>
      </li>
      <li
        v-for="code in fine.filter((one) => !search.minded.some((other) => other.code === one))"
        :key="code"
      >
        <label><input type="checkbox" checked @change="turn(code)" /> fine all the same: {{ code }}</label>
      </li>
    </ul>
  </template>
  <h2>What ruled out the rest</h2>
  <ol class="m-0 p-0 list-none">
    <li v-for="station in stations" :key="station.key" class="mb-10">
      <b>{{ station.label }}</b> {{ counted(station.count) }}
      <i
        class="block h-5 bg-copper opacity-60"
        :style="{ width: `${Math.max(1, (100 * station.count) / most)}%` }"
        aria-hidden="true"
      />
      <small v-for="line in station.lines" :key="line.reason" class="block quiet">
        {{ counted(line.count) }} {{ line.reason }}
      </small>
    </li>
  </ol>
</template>
