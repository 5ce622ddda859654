<script setup lang="ts">
/** The build sheet as a page: everything that goes to the bench on paper, in the order it is needed there. */
import { computed, onMounted, ref, shallowRef } from 'vue'

import {
  api,
  sentenceOf,
  type Assessment,
  type FitReply,
  type Procedure,
  type SheetReply,
  type WiringReply,
} from '@/api/client'
import AsBuiltTable from '@/components/AsBuiltTable.vue'
import ExportLinks from '@/components/ExportLinks.vue'
import { byCause } from '@/findings'
import LevelMark from '@/kit/LevelMark.vue'
import HookUpDrawing from '@/drawings/HookUpDrawing.vue'
import ResistorDrawing from '@/drawings/ResistorDrawing.vue'
import ThreeViews from '@/drawings/ThreeViews.vue'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ id: number; build: number }>()
const conversion = useConversion()
const problem = ref('')
const seen = shallowRef<Assessment>()
const wiring = shallowRef<WiringReply>()
const fit = shallowRef<FitReply>()
const steps = shallowRef<Procedure>()
const lines = shallowRef<SheetReply>()

onMounted(async () => {
  if (conversion.stored?.id !== props.id && !(await conversion.open(props.id))) return
  conversion.choose(props.build)
  document.title = `${conversion.document!.gadget.name}, build sheet · Pocket Spark`
  const body = conversion.question()
  const [assessed, wired, placed, procedure, parts] = await Promise.all([
    api.POST('/api/questions/assess', { body }),
    api.POST('/api/questions/wiring', { body }),
    api.POST('/api/questions/fit', { body }),
    api.POST('/api/questions/procedure', { body }),
    api.POST('/api/questions/sheet', { body }),
  ])
  seen.value = assessed.data?.assessment
  wiring.value = wired.data
  fit.value = placed.data
  steps.value = procedure.data
  lines.value = parts.data
  const error = [assessed, wired, placed, procedure, parts].find((reply) => reply.error)?.error
  if (error) problem.value = sentenceOf(error)
})

const chosen = computed(() => conversion.document?.builds[props.build])
const name = computed(() => conversion.document?.gadget.name ?? '')
const weighty = computed(() =>
  byCause(seen.value?.findings ?? []).flatMap(({ finding, others }) => [finding, ...others]),
)
const print = () => window.print()
</script>

<template>
  <main
    v-if="conversion.document && chosen && (seen || problem)"
    class="max-w-900 mx-auto my-0 px-20 pt-20 pb-60 print:p-0 print:max-w-none print:text-fine"
  >
    <nav class="no-print flex flex-wrap items-center gap-8 mb-12">
      <RouterLink class="mr-auto text-copper" :to="`/conversion/${id}/build`"
        >← back to the conversion</RouterLink
      >
      <ElButton size="small" type="primary" @click="print">Print it</ElButton>
      <ExportLinks page="sheet" />
      <RouterLink class="mr-auto text-copper" :to="`/conversion/${id}/shopping?build=${build}`"
        >Shopping list</RouterLink
      >
    </nav>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <h1>{{ name }}: {{ chosen.name }}</h1>
    <p v-if="seen" class="summary text-large">
      <template v-if="seen.charge"
        ><b>{{ seen.charge.r_prog_ohm.text }}</b
        >, {{ seen.charge.current_a.text
        }}{{ seen.charge.hours ? `, full in about ${seen.charge.hours.text}` : ', never ends' }}.
      </template>
      <template v-else-if="seen.charging"
        >{{ seen.charging.current_a.text }} from the {{ seen.charging.says
        }}{{ seen.charging.hours ? `, full in about ${seen.charging.hours.text}` : ', never ends' }}.
      </template>
      <template v-if="seen.gadget_v"
        >{{ seen.gadget_v.max.text }} to {{ seen.gadget_v.min.text }} at the gadget.
      </template>
      <template v-if="seen.run?.days"
        >{{ seen.run.days.text }} as used, {{ seen.run.standby_days.text }} switched off.</template
      >
    </p>
    <ul v-if="weighty.length" class="mx-0 mt-8 mb-0 p-0 list-none">
      <li v-for="finding in weighty" :key="finding.id" :class="{ 'ml-20': finding.part_of }">
        <LevelMark :level="finding.level" :size="12" /> {{ finding.headline
        }}<span v-if="finding.assumed" class="quiet"> (assumed)</span>
      </li>
    </ul>

    <p v-if="conversion.document.notes" class="notes">{{ conversion.document.notes }}</p>
    <div class="grid grid-cols-[3fr_2fr] gap-28 narrow:grid-cols-1">
      <section aria-label="Parts">
        <h2>Parts</h2>
        <table class="ruled">
          <tbody>
            <tr v-for="part in lines?.parts" :key="part.part">
              <td class="number">{{ part.quantity }} ×</td>
              <td>{{ part.part }}</td>
              <td class="quiet">{{ part.remark }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <section v-if="seen?.charge" aria-label="Charge-current resistor">
        <h2>Charge-current resistor</h2>
        <ResistorDrawing :bands="seen.charge.fitted.bands" :chip-code="seen.charge.fitted.chip_code" />
        <p>{{ seen.charge.fitted.text }}: {{ seen.charge.fitted.bands.join(' ') }}</p>
      </section>
    </div>

    <section v-if="wiring" aria-label="Hook-up">
      <h2>Hook-up</h2>
      <HookUpDrawing :drawing="wiring.drawing" trace="" />
      <table class="ruled" aria-label="Cut list">
        <tbody>
          <tr v-for="wire in wiring.cut_list" :key="wire.start + wire.end">
            <td>
              ☐ <b>{{ wire.letter }}</b>
            </td>
            <td>{{ wire.start.replace('.', ' ') }}</td>
            <td>{{ wire.end.replace('.', ' ') }}</td>
            <td class="number">{{ wire.length_mm.text }}{{ wire.guessed ? ' (guessed)' : '' }}</td>
            <td class="number">{{ wire.gauge }}</td>
            <td>{{ wire.colour }}</td>
          </tr>
        </tbody>
      </table>
    </section>

    <section v-if="fit?.answer" aria-label="Where it lies">
      <h2>Where it lies, mm</h2>
      <ThreeViews :answer="fit.answer" picked="" unit="mm" />
      <table v-if="fit.answer.openings?.length" class="ruled" aria-label="Openings">
        <thead>
          <tr>
            <th>wall</th>
            <th>hole</th>
            <th class="number">size</th>
            <th class="number">from left edge</th>
            <th class="number">from lower edge</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(hole, index) in fit.answer.openings" :key="index">
            <td>{{ hole.side }}</td>
            <td>{{ hole.what }}</td>
            <td class="number">
              {{
                hole.round
                  ? `⌀ ${hole.width_mm.toFixed(1)}`
                  : `${hole.width_mm.toFixed(1)} x ${hole.height_mm.toFixed(1)}`
              }}
            </td>
            <td class="number">{{ hole.across_mm.toFixed(1) }}</td>
            <td class="number">{{ hole.up_mm.toFixed(1) }}</td>
          </tr>
        </tbody>
      </table>
    </section>

    <section v-if="seen?.cautions?.length" aria-label="Cautions">
      <h2>Cautions, before the first step</h2>
      <p v-for="caution in seen.cautions" :key="caution.text">{{ caution.text }}</p>
    </section>
    <section v-if="steps" aria-label="Steps">
      <h2>Steps</h2>
      <table class="ruled">
        <tbody>
          <tr v-for="(step, index) in steps.steps" :key="step.key">
            <td class="number">{{ index + 1 }}</td>
            <td>
              {{ step.title }}. <span v-if="step.caution" class="quiet">{{ step.caution }}</span>
            </td>
            <td>
              <template v-if="step.hold">{{ step.hold.quantity }}: {{ step.hold.limits }}</template>
            </td>
            <td class="box number min-w-56 border-b border-ink2">{{ step.reads }}</td>
          </tr>
        </tbody>
      </table>
    </section>

    <AsBuiltTable :figures="lines?.as_built ?? []" />
  </main>
</template>

<style scoped>
nav .el-button {
  margin-left: 0;
}
h2 {
  margin: 20px 0 4px;
}
@media (max-width: 700px) {
  td,
  th {
    padding: 4px 3px;
    white-space: normal;
    overflow-wrap: anywhere;
  }
}
@media print {
  section {
    break-inside: avoid-page;
  }
}
</style>
