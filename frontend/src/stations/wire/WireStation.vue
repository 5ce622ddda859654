<script setup lang="ts">
/** Wire: the hook-up that follows from the build, checked net by net, changed pad by pad, and cut to length. */
import { computed, ref } from 'vue'

import { api, type Choice, type WiringReply } from '@/api/client'
import ExportLinks from '@/components/ExportLinks.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import CheckField from '@/kit/CheckField.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { useQuestion } from '@/composables/useQuestion'
import { numberOf } from '@/document'
import LaidDrawing from '@/stations/wire/LaidDrawing.vue'
import HookUpDrawing from '@/drawings/HookUpDrawing.vue'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const conversion = useConversion()
const reference = useReference()
const reply = useQuestion<WiringReply>(
  async (body) => (conversion.build?.cell ? await api.POST('/api/questions/wiring', { body }) : undefined),
  30,
)
const { late } = reply
const picked = ref('')
const asLaid = ref(false)
const trace = ref<'' | 'charging' | 'running'>('')
const base = computed(() => conversion.buildPath)
type Wire = WiringReply['wires'][number]

/** Pads named by a finding that stops the wiring: drawn in the stop colour. */
const accused = computed(() => {
  const stops =
    conversion.assessment?.findings.filter((f) => f.station === 'wire' && f.level === 'stop') ?? []
  return stops.flatMap((stop) => stop.subjects)
})
const rated = (code: string) => conversion.assessment?.findings.some((finding) => finding.code === code)
const summary = computed(() => {
  if (!conversion.build?.cell) return t('Choose a cell first: wires begin at its leads.')
  if (!reply.value) return t('Drawing the wires …')
  const wires = reply.value.wires.filter((wire) => !wire.present).length
  return t('{wires} wires to solder{t}. Pick a pad, then another, to join them.', {
    wires,
    t: reply.value.own ? t(', as you changed them') : t(', made from the build'),
  })
})

/** The first change takes over all wires as they stand. */
function change(mutate: (wires: Wire[]) => Wire[]): void {
  const now = JSON.parse(JSON.stringify(reply.value?.wires ?? [])) as Wire[]
  conversion.change((document) => {
    const build = document.builds[conversion.buildIndex]!
    build.wiring = { ...build.wiring, wires: mutate(now) }
  })
}
function pick(pad: string): void {
  if (!picked.value || picked.value === pad) {
    picked.value = picked.value === pad ? '' : pad
    return
  }
  const start = picked.value
  picked.value = ''
  change((wires) => [...wires, { id: '', start, end: pad, present: false }])
}
const remove = (index: number) => change((wires) => wires.filter((_, i) => i !== index))
const there = (index: number) =>
  change((wires) => wires.map((wire, i) => (i === index ? { ...wire, present: !wire.present } : wire)))
const asMade = () => conversion.edit(`${base.value}.wiring.wires`, null)

const PADS = computed<Choice[]>(() => [
  { value: '', label: t('nothing'), detail: '', asks: [] },
  ...(reply.value?.drawing.parts ?? []).flatMap((part) =>
    part.pads.map((pad) => ({ value: pad.name, label: pad.name.replace('.', ' '), detail: '', asks: [] })),
  ),
])
type ExtraKind = NonNullable<typeof conversion.build>['wiring']['extra'][number]['kind']
function addPart(kind: ExtraKind): void {
  change((wires) => wires)
  conversion.change((document) => {
    const wiring = document.builds[conversion.buildIndex]!.wiring
    const count = (wiring.extra ?? []).filter((part) => part.kind === kind).length + 1
    wiring.extra = [...(wiring.extra ?? []), { key: `own_${kind}${count}`, kind, name: kind }]
  })
}
</script>

<template>
  <div>
    <h1>What goes to what</h1>
    <p class="quiet">{{ summary }}</p>
    <template v-if="reply">
      <div class="flex flex-wrap items-center gap-y-8 gap-x-18 mx-0 my-10">
        <ElRadioGroup v-model="trace" size="small" aria-label="Path to trace">
          <ElRadioButton value="">all wires</ElRadioButton>
          <ElRadioButton value="charging">charging</ElRadioButton>
          <ElRadioButton value="running">running</ElRadioButton>
        </ElRadioGroup>
        <ElRadioGroup v-if="reply.laid" v-model="asLaid" size="small" aria-label="How it is drawn">
          <ElRadioButton :value="false">pulled apart</ElRadioButton>
          <ElRadioButton :value="true">as it lies</ElRadioButton>
        </ElRadioGroup>
        <span v-if="picked" class="text-copper font-semibold" role="status"
          >{{ picked.replace('.', ' ') }} to …</span
        >
        <button v-if="reply.own" type="button" class="bare act tap" @click="asMade">
          Wire it as the tool does
        </button>
        <RouterLink
          class="tap font-semibold"
          :to="`/conversion/${conversion.stored?.id}/what-if?build=${conversion.buildIndex}`"
          >What if one thing goes wrong</RouterLink
        >
      </div>
      <LaidDrawing v-if="reply.laid && asLaid" :reply="reply" :trace="trace" />
      <HookUpDrawing
        v-else
        :drawing="reply.drawing"
        :trace="trace"
        :picked="picked"
        :accused="accused"
        @pick="pick"
      />
      <div class="pair grid grid-cols-[5fr_6fr] gap-y-6 gap-x-24 narrow:grid-cols-1">
        <section aria-label="Wires">
          <h2 class="mx-0 mt-14 mb-4">Wires</h2>
          <div class="scroll" tabindex="0" role="region" aria-label="Wires as they are">
            <table class="ruled">
              <tbody>
                <tr v-for="(wire, index) in reply.wires" :key="wire.start + wire.end">
                  <td>{{ wire.start.replace('.', ' ') }}</td>
                  <td>{{ wire.end.replace('.', ' ') }}</td>
                  <td>
                    <ElCheckbox :model-value="wire.present" @update:model-value="there(index)"
                      >already connected</ElCheckbox
                    >
                  </td>
                  <td class="number">
                    <button
                      type="button"
                      class="bare"
                      :aria-label="`Remove ${wire.start} to ${wire.end}`"
                      @click="remove(index)"
                    >
                      ×
                    </button>
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
          <p class="flex flex-wrap gap-y-4 gap-x-16 px-0 py-8">
            add a
            <button
              v-for="choice in reference.tables!.extra_kinds"
              :key="choice.value"
              type="button"
              class="bare act tap"
              @click="addPart(choice.value as ExtraKind)"
            >
              {{ choice.label.toLowerCase() }}
            </button>
          </p>
        </section>
        <section aria-label="Cut list" :class="{ late }">
          <h2 class="mx-0 mt-14 mb-4">To cut</h2>
          <div class="scroll" tabindex="0" role="region" aria-label="Wires to cut">
            <table class="ruled">
              <thead>
                <tr>
                  <th><span class="visually-hidden">letter</span></th>
                  <th>from</th>
                  <th>to</th>
                  <th class="number">length</th>
                  <th>gauge</th>
                  <th></th>
                  <th class="number">drop</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="wire in reply.cut_list" :key="wire.start + wire.end">
                  <td>
                    <b>{{ wire.letter }}</b>
                  </td>
                  <td>{{ wire.start.replace('.', ' ') }}</td>
                  <td>{{ wire.end.replace('.', ' ') }}</td>
                  <td class="number">{{ wire.length_mm.text }}{{ wire.guessed ? ' ?' : '' }}</td>
                  <td class="gauge">{{ wire.gauge }}</td>
                  <td>{{ wire.colour }}</td>
                  <td class="number" :title="`at ${wire.current_a.text}`">
                    {{ wire.drop_v.text }}
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
          <p class="quiet small">
            With 25 mm to open the case by and to cut off again. Colours help the eye only: hold the meter on
            each plug before it goes in, connectors are not standardised.
          </p>
          <ChoiceField
            v-if="conversion.build?.cell?.thermistor_lead"
            :path="`${base}.wiring.thermistor_lead`"
            label="Temperature wire"
            :choices="reference.tables!.thermistor_leads"
          />
          <ChoiceField
            v-if="conversion.document?.gadget.shell?.metal"
            :path="`${base}.wiring.case_touches`"
            label="The metal case touches"
            :choices="PADS"
          />
          <CheckField
            v-if="conversion.document?.gadget.shell?.metal"
            :path="`${base}.wiring.socket_insulated`"
            label="the socket’s shell is insulated from the case"
          />
          <CheckField :path="`${base}.wiring.sleeved`" label="every bare joint has a sleeve" />
          <CheckField
            v-if="(numberOf(conversion.build?.cell_count) ?? 1) > 1"
            :path="`${base}.wiring.matched`"
            label="the cells are matched"
          />
          <ChoiceField
            :path="`${base}.switch_place`"
            label="Main switch stands"
            :choices="reference.tables!.switch_places"
          />
          <QuantityField :path="`${base}.switch_a`" unit="A" label="A switch rated for" placeholder="0.3" />
          <QuantityField :path="`${base}.fuse_a`" unit="A" label="A fuse that holds" placeholder="none" />
          <QuantityField
            v-if="rated('wire.contacts_rating')"
            :path="`${base}.contacts_a`"
            unit="A"
            label="Spring contacts rated for"
            placeholder="1"
          />
          <p class="flex flex-wrap gap-y-4 gap-x-16 px-0 py-8">
            <ExportLinks page="wire" />
          </p>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.gauge {
  min-width: 6.6em;
  white-space: normal;
}
.act {
  color: var(--copper);
  font-weight: 600;
}
.pair :deep(.choice) {
  margin-top: 6px;
  grid-template-columns: minmax(0, 1fr) 176px;
}
</style>
