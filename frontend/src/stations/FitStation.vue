<script setup lang="ts">
/** Fit: does it all go in, where, how tight, and if not, what must give. */
import { computed, onMounted, ref } from 'vue'

import { api, type FitReply } from '@/api/client'
import BayFields from '@/components/BayFields.vue'
import CheckField from '@/kit/CheckField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FitAttempts from '@/components/FitAttempts.vue'
import FitFiles from '@/components/FitFiles.vue'
import QuantityField from '@/kit/QuantityField.vue'
import PartPins from '@/components/PartPins.vue'
import SmallParts from '@/components/SmallParts.vue'
import FitSweep from '@/components/FitSweep.vue'
import { useQuestion } from '@/composables/useQuestion'
import ThreeViews from '@/drawings/ThreeViews.vue'
import BayModel3D from '@/drawings/BayModel3D.vue'
import { useConversion } from '@/stores/conversion'
import { useInventory } from '@/stores/inventory'
import { useReference } from '@/stores/reference'

const conversion = useConversion()
const reference = useReference()
const inventory = useInventory()
onMounted(() => inventory.load())

/** Asked at once: a moved caliper figure redraws the answer. */
const reply = useQuestion<FitReply>(async (body) => await api.POST('/api/questions/fit', { body }), 0)
const answer = computed(() => reply.value?.answer ?? null)
const picked = ref('')
const pickedPart = computed(() => answer.value?.placements?.find((part) => part.part === picked.value))
const turning = ref(false)
const bayFields = ref<InstanceType<typeof BayFields>>()

function place(part: string, at: [number, number, number]): void {
  conversion.change((document) => {
    const build = document.builds[conversion.buildIndex]!
    const others = (build.pins ?? []).filter((pin) => pin.part !== part)
    const old = build.pins?.find((pin) => pin.part === part)
    build.pins = [...others, { id: '', part, at_mm: at, side: null, room: '', turned: old?.turned ?? null }]
  })
}

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
    <p
      v-if="answer"
      :class="['verdict', answer.assumed_bay && answer.fits === 'no' ? 'too_close' : answer.fits]"
      role="status"
    >
      {{ reply!.says }}
    </p>
    <p v-else class="quiet">
      {{
        reply && !reply.bay
          ? 'Nothing is known of the bay yet: measure it below.'
          : 'Choose a cell and boards first: they are what has to go in.'
      }}
    </p>

    <p v-if="reply?.room_says" class="quiet">Built as it is, everything goes into {{ reply.room_says }}.</p>
    <template v-if="answer">
      <div class="pair grid grid-cols-[minmax(0,7fr)_minmax(0,4fr)] gap-y-6 gap-x-28 narrow:grid-cols-1">
        <div>
          <ThreeViews
            v-if="!turning"
            :answer="answer"
            :picked="picked"
            :unit="bayFields?.unit ?? 'mm'"
            @pick="picked = $event"
            @place="place"
          />
          <BayModel3D v-else :answer="answer" :picked="picked" />
          <button
            type="button"
            class="bare text-copper font-semibold whitespace-nowrap"
            @click="turning = !turning"
          >
            {{ turning ? 'Three views with measures' : 'A picture to turn' }}
          </button>
        </div>
        <div>
          <template v-if="answer.remedies?.length">
            <h2 class="mx-0 mt-10 mb-4">What must give, smallest first</h2>
            <ul class="remedies m-0 p-0 list-none">
              <li
                v-for="given in answer.remedies"
                :key="given.says"
                class="flex justify-between gap-12 px-0 py-5 border-b border-line"
              >
                <span
                  >{{ given.says
                  }}<small v-if="given.buys" class="quiet block"> {{ given.buys }}</small></span
                >
                <button
                  v-if="given.edits?.length"
                  type="button"
                  class="bare text-copper font-semibold whitespace-nowrap"
                  @click="conversion.apply({ label: given.says, edits: given.edits })"
                >
                  Do it
                </button>
              </li>
            </ul>
          </template>
          <p v-else-if="answer.fits === 'no'" class="quiet">
            Neither one change nor two lets it all in: choose a smaller cell or board, or put more of it
            outside.
          </p>
          <p v-if="answer.shut_in?.length" class="text-caution font-semibold" role="note">
            No wire can be led to the pads of {{ answer.shut_in.join(' and ') }} where it lies now.
          </p>
          <template v-if="answer.gaps?.length">
            <h2 class="mx-0 mt-10 mb-4">Tightest places</h2>
            <ul class="m-0 p-0 list-none">
              <li v-for="gap in answer.gaps.slice(0, 5)" :key="gap.first + gap.second" class="px-0 py-2">
                <b>{{ gap.mm.toFixed(1) }} mm</b> {{ gap.first }} to {{ gap.second }}
              </li>
            </ul>
          </template>
          <template v-if="answer.stands?.length && answer.fits !== 'no'">
            <h2 class="mx-0 mt-10 mb-4">What carries it</h2>
            <ul class="m-0 p-0 list-none">
              <li v-for="one in answer.stands" :key="one.part" class="px-0 py-2">
                {{ one.part }}: <b v-if="one.foam_mm > 0">{{ one.foam_mm.toFixed(1) }} mm of foam</b> on
                {{ one.on }}
              </li>
            </ul>
          </template>
          <template v-if="answer.chains?.length">
            <h2 class="mx-0 mt-10 mb-4">If measures are off</h2>
            <p class="quiet small mt-0 mb-2">
              Left in a row, with bay, cell and boards off by their tolerances
            </p>
            <table class="chains w-full text-small">
              <thead>
                <tr>
                  <th scope="col" class="text-left">Along</th>
                  <th scope="col" class="text-right">by measure</th>
                  <th scope="col" class="text-right">likely</th>
                  <th scope="col" class="text-right">at the worst</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="chain in answer.chains" :key="chain.axis" :title="chain.parts.join(', ')">
                  <th scope="row" class="text-left font-normal">{{ chain.axis }}</th>
                  <td
                    v-for="mm in [chain.spare_mm, chain.likely_mm, chain.worst_mm]"
                    :key="mm"
                    class="text-right"
                  >
                    <span :class="{ 'text-caution font-semibold': mm < 0 }">{{ mm.toFixed(1) }} mm</span>
                  </td>
                </tr>
              </tbody>
            </table>
          </template>
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
    </template>

    <div class="pair lower grid grid-cols-2 gap-y-6 gap-x-28 mt-14 narrow:grid-cols-1">
      <BayFields ref="bayFields" :bay="reply?.bay" />
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
          :unit="bayFields?.unit ?? 'mm'"
          :label="`Socket stands out over ${board.name} by`"
          no-basis
        />
        <QuantityField
          v-if="socketed.length"
          :path="`${conversion.buildPath}.socket_stop_mm`"
          :unit="bayFields?.unit ?? 'mm'"
          label="Stop behind the socket, thick"
          no-basis
        />
        <SmallParts :unit="bayFields?.unit ?? 'mm'" />
        <FitSweep v-if="reply && answer" :largest="reply.largest" />
        <FitAttempts :answer="answer" />
      </div>
    </div>
    <FitFiles v-if="reply" :reply="reply" :name="conversion.document!.gadget.name" />
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
.not_certain {
  color: var(--caution);
}
</style>
