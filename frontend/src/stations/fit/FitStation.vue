<script setup lang="ts">
/** Fit: does it all go in, where, how tight, and if not, what must give. */
import { computed, onMounted, ref } from 'vue'

import { api, type FitReply, type Project } from '@/api/client'
import BayFields from '@/stations/fit/BayFields.vue'
import InTurn from '@/kit/InTurn.vue'
import CheckField from '@/kit/CheckField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FitAttempts from '@/stations/fit/FitAttempts.vue'
import FitFiles from '@/stations/fit/FitFiles.vue'
import QuantityField from '@/kit/QuantityField.vue'
import PartPins from '@/stations/fit/PartPins.vue'
import SmallParts from '@/stations/fit/SmallParts.vue'
import FitSweep from '@/stations/fit/FitSweep.vue'
import { useQuestion } from '@/composables/useQuestion'
import { useWhileHeld } from '@/composables/useWhileHeld'
import DrawnMeasure from '@/stations/fit/DrawnMeasure.vue'
import PickedObstacle from '@/stations/fit/PickedObstacle.vue'
import { NEW } from '@/stations/fit/useDragged'
import FitTolerances from '@/stations/fit/FitTolerances.vue'
import WhatMustGive from '@/stations/fit/WhatMustGive.vue'
import { numbersOf } from '@/document'
import ThreeViews from '@/stations/fit/ThreeViews.vue'
import BayModel3D from '@/stations/fit/BayModel3D.vue'
import { useConversion } from '@/stores/conversion'
import { useInventory } from '@/stores/inventory'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const conversion = useConversion()
const reference = useReference()
const inventory = useInventory()
onMounted(() => inventory.load())

/** Asked at once: a moved caliper figure redraws the answer. */
const reply = useQuestion<FitReply>(async (body) => await api.POST('/api/questions/fit', { body }), 0)
const { late } = reply
const answer = computed(() => reply.value?.answer ?? null)
const picked = ref('')
const pickedPart = computed(() => answer.value?.placements?.find((part) => part.part === picked.value))
const turning = ref(false)
const bayFields = ref<InstanceType<typeof BayFields>>()
const unit = computed(() => bayFields.value?.unit ?? 'mm')

function place(part: string, at: [number, number, number]): void {
  conversion.change((document) => pin(document, part, at))
}
function pin(document: Project, part: string, at: readonly number[]): void {
  const build = document.builds[conversion.buildIndex]!
  const others = (build.pins ?? []).filter((pin) => pin.part !== part)
  const old = build.pins?.find((pin) => pin.part === part)
  build.pins = [
    ...others,
    { id: '', part, at_mm: [...at], side: null, room: '', turned: old?.turned ?? null },
  ]
}

/** What would be said of it there, while it is still in the hand. */
const inHand = useWhileHeld((document, { what, at, size }) => {
  const obstacles = document.gadget.bay?.obstacles
  const obstacle = obstacles?.find(({ id }) => id === what)
  if (obstacle) Object.assign(obstacle, { at_mm: fromRoom(at), size_mm: size })
  else if (what === NEW)
    obstacles?.push({ ...OBSTACLE, id: '', name: '', at_mm: fromRoom(at), size_mm: [...size] })
  else pin(document, what, at)
})
const told = computed(() => inHand.reply.value ?? reply.value)
const verdict = computed(() => {
  const said = told.value?.answer
  return said && (said.assumed_bay && said.fits === 'no' ? 'too_close' : said.fits)
})

/** Measures that are fields on the drawing, in the order a caliper goes: none where several spaces make up its box. */
const onDrawing = computed(() => {
  const bay = conversion.document?.gadget.bay
  // A box or an outline of its own is no bay of the gadget's.
  if (!bay || reply.value?.room_says) return []
  const top = { view: 0, axis: 0, across: true } as const
  if (bay.tube) {
    const tube = 'gadget.bay.tube'
    return [
      { ...top, path: `${tube}.length_mm`, label: t('Length of the tube, on the drawing') },
      { view: 0, axis: 1, across: false, path: `${tube}.diameter_mm`, label: t('Diameter, on the drawing') },
    ]
  }
  if (bay.rooms?.length !== 1) return []
  const sizes = 'gadget.bay.rooms.0.size_mm'
  return [
    { ...top, path: `${sizes}.0`, label: t('Length, on the drawing') },
    { view: 0, axis: 1, across: false, path: `${sizes}.1`, label: t('Width, on the drawing') },
    { view: 1, axis: 2, across: false, path: `${sizes}.2`, label: t('Height, on the drawing') },
  ]
})

const drawing = ref(false)
const OBSTACLE = { state: 'keep', on_lid: false } as const
/** Told from the corner of the bay, which is where the document's first room begins. */
function fromRoom(at: readonly number[]): number[] {
  const origin = numbersOf(conversion.document?.gadget.bay?.rooms?.[0]?.at_mm) ?? [0, 0, 0]
  return at.map((mm, axis) => Math.round((mm + origin[axis]!) * 100) / 100)
}
async function setObstacle(id: string, at: readonly number[], size: readonly number[]): Promise<void> {
  const at_mm = fromRoom(at)
  drawing.value = false
  if (id !== NEW) {
    const path = `gadget.bay.obstacles.${id}`
    await conversion.applyEdits([
      { path: `${path}.at_mm`, value: at_mm },
      { path: `${path}.size_mm`, value: size },
    ])
    return
  }
  const name = t('obstacle {value}', { value: (conversion.document?.gadget.bay?.obstacles?.length ?? 0) + 1 })
  await conversion.addRow('gadget.bay.obstacles', { ...OBSTACLE, name, at_mm, size_mm: size })
  picked.value = conversion.document?.gadget.bay?.obstacles?.at(-1)?.id ?? ''
}

const takesCradle = computed(() => reply.value?.prints.cradle && !answer.value?.tube_mm)
const socketed = computed(() => conversion.build?.boards?.filter((board) => board.socket) ?? [])

const held = computed(() => conversion.build?.outside?.length || conversion.build?.shell_off?.length)
function restore(): void {
  conversion.change((document) => {
    const build = document.builds[conversion.buildIndex]!
    build.outside = []
    build.shell_off = []
  })
}
</script>

<template>
  <div>
    <h1>Will it go in</h1>
    <p v-if="verdict" :class="['verdict', verdict, { late }]" role="status">{{ told!.says }}</p>
    <p v-else class="quiet">
      {{
        reply === undefined
          ? 'Looking for a place for everything …'
          : reply && !reply.bay
            ? 'Nothing is known of the bay yet: measure it below.'
            : 'Choose a cell and boards first: they are what has to go in.'
      }}
    </p>

    <p v-if="reply?.room_says" class="quiet">Built as it is, everything goes into {{ reply.room_says }}.</p>
    <template v-if="answer">
      <div class="flex flex-col gap-8" :class="{ late }">
        <div>
          <ThreeViews
            v-if="!turning"
            :answer="answer"
            :picked="picked"
            :unit="unit"
            :changes="onDrawing.length > 0"
            :drawing="drawing"
            @pick="picked = $event"
            @place="place"
            @obstacle="setObstacle"
            @held="inHand.hold"
          >
            <template #corner><WhatMustGive :answer="answer" /></template>
            <template #measures="{ views, py, px, size, below, left }">
              <DrawnMeasure
                v-for="measure in onDrawing"
                :key="measure.path"
                :path="measure.path"
                :unit="unit"
                :label="measure.label"
                :x="measure.across ? px(views[measure.view]!, size[measure.axis]! / 2) : left + 19"
                :y="
                  measure.across
                    ? below(views[measure.view]!)
                    : py(views[measure.view]!, size[measure.axis]! / 2)
                "
              />
            </template>
          </ThreeViews>
          <template v-else>
            <BayModel3D :answer="answer" :picked="picked" />
            <WhatMustGive :answer="answer" />
          </template>
          <p class="flex flex-wrap gap-x-18 m-0">
            <button
              v-if="onDrawing.length && !turning"
              type="button"
              class="bare text-copper font-semibold whitespace-nowrap"
              :aria-pressed="drawing"
              @click="drawing = !drawing"
            >
              {{ drawing ? 'Now drag from corner to corner, from above' : 'Draw what stands in it' }}
            </button>
            <button
              type="button"
              class="bare text-copper font-semibold whitespace-nowrap"
              @click="turning = !turning"
            >
              {{ turning ? 'Three views with measures' : 'A picture to turn' }}
            </button>
          </p>
        </div>
        <div>
          <FitTolerances :answer="answer" />
          <button
            v-if="held"
            type="button"
            class="bare text-copper font-semibold whitespace-nowrap"
            @click="restore"
          >
            Restore what was put outside or taken off
          </button>
        </div>
      </div>
      <PartPins v-if="pickedPart" :part="pickedPart" />
      <PickedObstacle v-else-if="picked" :id="picked" :unit="unit" />
    </template>

    <!-- Not before the drawing is there, which would push it down. -->
    <div
      v-if="reply !== undefined || conversion.stale"
      class="pair lower grid grid-cols-2 gap-y-6 gap-x-28 mt-14 narrow:grid-cols-1"
    >
      <InTurn><BayFields ref="bayFields" :bay="reply?.bay" /></InTurn>
      <InTurn>
        <div class="chosen flex flex-col gap-6">
          <ChoiceField
            :path="`${conversion.buildPath}.style`"
            label="Where it sits"
            :choices="reference.tables!.styles"
          />
          <ChoiceField
            :path="`${conversion.buildPath}.cell_lead`"
            label="The cell's lead"
            :choices="reference.tables!.cell_leads"
          />
          <CheckField
            v-if="conversion.build?.cell?.form === 'pouch'"
            :path="`${conversion.buildPath}.cell_any_way`"
            label="The pouch may stand on its edge"
          />
          <QuantityField
            v-for="board in socketed"
            :key="board.id"
            :path="`${conversion.buildPath}.boards.${board.id}.socket.nose_mm`"
            :unit="unit"
            :label="`Socket stands out over ${board.name} by`"
            no-basis
          />
          <QuantityField
            v-if="socketed.length"
            :path="`${conversion.buildPath}.socket_stop_mm`"
            :unit="unit"
            label="Stop behind the socket, thick"
            no-basis
          />
          <QuantityField
            v-if="takesCradle"
            :path="`${conversion.buildPath}.cradle_mm`"
            :unit="unit"
            label="Printed cradle under the charger board, wall"
            no-basis
          />
          <SmallParts :unit="unit" />
          <FitSweep v-if="reply && answer" />
          <FitAttempts :answer="answer" />
        </div>
      </InTurn>
    </div>
    <InTurn v-if="reply"><FitFiles :reply="reply" :name="conversion.document!.gadget.name" /></InTurn>
  </div>
</template>

<style scoped>
.verdict {
  margin: 2px 0 8px;
  font-size: 16px;
  font-weight: 600;
}
.yes {
  color: var(--pass);
}
.no {
  color: var(--stop);
}
.too_close,
.not_certain,
.not_settled {
  color: var(--caution);
}
</style>
