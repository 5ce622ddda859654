<script setup lang="ts">
/** Power: what the gadget sees as the cell empties, what shapes it, and what guards the cell. */
import { computed } from 'vue'

import { api, type Part, type ShaperOption } from '@/api/client'
import GadgetVoltsChart from '@/charts/GadgetVoltsChart.vue'
import PartPicker from '@/components/PartPicker.vue'
import ShaperTable from '@/components/ShaperTable.vue'
import { useBoards } from '@/composables/useBoards'
import { useWhatIf } from '@/composables/useWhatIf'
import { days, duration, percent, plain, volts } from '@/format'
import { useConversion } from '@/stores/conversion'
import { useTrade } from '@/stores/trade'

const conversion = useConversion()
const trade = useTrade()
const { boards, boardAt, put } = useBoards()

const run = computed(() => conversion.assessment?.run)
const survey = computed(() => conversion.assessment?.survey)
const seen = computed(() => conversion.assessment?.gadget_v)

const told = computed(() => {
  if (!conversion.build?.cell) return 'Choose a cell first; then its voltage is held against the gadget here.'
  if (!run.value?.modes.length)
    return 'Give the gadget a mode with a current at Survey, and its run is drawn here.'
  const lasts = run.value.days ? `${days(run.value.days)} as used, ` : ''
  return `${volts(seen.value!.max)} at most, ${volts(seen.value!.min)} at the end; ${lasts}${days(run.value.standby_days)} switched off.`
})

const WHO: Record<string, string> = {
  gadget: 'the gadget gives up',
  guard: 'the guard cuts',
  cell: 'the cell is empty',
}

const options = useWhatIf<ShaperOption[]>(async (body) =>
  conversion.build?.cell ? await api.POST('/api/shapers', { body }) : {},
)
const shaperName = computed(
  () => boardAt('shaper')?.name ?? conversion.build?.shaper?.name ?? 'none, straight through',
)
const builtIn = computed(() => {
  const named = boards.value.filter((board) => board.charger && board.guard).map(() => 'on the charger board')
  return conversion.build?.cell?.own_guard ? [...named, 'on the cell'] : named
})

function pickShaper(name: string): void {
  put(
    'shaper',
    trade.boards('shaper').find((part) => part.board!.name === name),
  )
}

function guardText(part: Part): string {
  const guard = part.board!.guard!
  return `cuts at ${plain(guard.cut_v, 3)} V, ${part.board!.outline_mm?.map((mm) => plain(mm, 3)).join(' x ')} mm`
}
</script>

<template>
  <div>
    <h1>What the gadget sees</h1>
    <p class="quiet">{{ told }}</p>

    <template v-if="run?.modes.length && survey">
      <h2>Volts at the gadget, from full to empty; green is where it works</h2>
      <GadgetVoltsChart :run="run" :window="survey.window" />
      <table class="ruled runs">
        <thead>
          <tr>
            <th>mode</th>
            <th class="number">runs</th>
            <th class="number">old set</th>
            <th class="number">used</th>
            <th class="number">ends at</th>
            <th>because</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(mode, index) in run.modes" :key="mode.name">
            <td><i :class="['swatch', `line-${index % 4}`]" />{{ mode.name }}</td>
            <td class="number">
              <b>{{ duration(mode.hours) }}</b>
            </td>
            <td class="number">{{ duration(mode.original_hours) }}</td>
            <td class="number">{{ percent(1 - mode.stranded) }}</td>
            <td class="number">{{ volts(mode.gadget_v_end) }}</td>
            <td>{{ WHO[mode.stopped_by] }}</td>
          </tr>
        </tbody>
      </table>
    </template>

    <template v-if="options && survey">
      <h2>Shapers, best first</h2>
      <ShaperTable :options="options" :window="survey.window" :chosen="shaperName" @pick="pickShaper" />
    </template>
    <PartPicker
      title="Guard"
      :none="builtIn.length ? `no extra board: ${builtIn.join(' and ')}` : 'no guard board'"
      :parts="trade.boards('guard')"
      :chosen="boardAt('guard')?.name ?? ''"
      :describe="guardText"
      @pick="put('guard', $event)"
    />
  </div>
</template>

<style scoped>
h2 {
  margin: 14px 0 4px;
}
.swatch {
  display: inline-block;
  width: 22px;
  margin-right: 8px;
  vertical-align: middle;
  border-top: 2px dashed var(--note);
}
.line-0 {
  border-top: 2px solid var(--copper);
}
.line-2 {
  border-color: var(--ink);
}
.line-3 {
  border-color: var(--pass);
}
.runs {
  margin-bottom: 8px;
}
</style>
