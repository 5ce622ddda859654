<script setup lang="ts">
/** Fit: does it all go in, where, how tight, and if not, what must give. */
import { computed, onMounted, ref } from 'vue'

import { api, type FitReply } from '@/api/client'
import BayFields from '@/components/BayFields.vue'
import CheckField from '@/kit/CheckField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FitAttempts from '@/components/FitAttempts.vue'
import FitFiles from '@/components/FitFiles.vue'
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
      <div class="pair">
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
          <button type="button" class="bare turn" @click="turning = !turning">
            {{ turning ? 'Three views with measures' : 'A picture to turn' }}
          </button>
        </div>
        <div>
          <template v-if="answer.remedies?.length">
            <h2>What must give, smallest first</h2>
            <ul class="remedies">
              <li v-for="given in answer.remedies" :key="given.says">
                <span
                  >{{ given.says }}<small v-if="given.buys" class="quiet"> {{ given.buys }}</small></span
                >
                <button
                  v-if="given.edits?.length"
                  type="button"
                  class="bare"
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
          <p v-if="answer.shut_in?.length" class="shut" role="note">
            No wire can be led to the pads of {{ answer.shut_in.join(' and ') }} where it lies now.
          </p>
          <template v-if="answer.gaps?.length">
            <h2>Tightest places</h2>
            <ul class="gaps">
              <li v-for="gap in answer.gaps.slice(0, 5)" :key="gap.first + gap.second">
                <b>{{ gap.mm.toFixed(1) }} mm</b> {{ gap.first }} to {{ gap.second }}
              </li>
            </ul>
          </template>
          <button v-if="held" type="button" class="bare turn" @click="restore">
            Restore what was put outside or taken off
          </button>
        </div>
      </div>
      <PartPins v-if="pickedPart" :part="pickedPart" />
    </template>

    <div class="pair lower">
      <BayFields ref="bayFields" :bay="reply?.bay" />
      <div class="chosen">
        <ChoiceField
          :path="`${conversion.buildPath}.style`"
          label="Built as"
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
.pair {
  display: grid;
  grid-template-columns: minmax(0, 7fr) minmax(0, 4fr);
  gap: 6px 28px;
}
.lower {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  margin-top: 14px;
}
.chosen {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
h2 {
  margin: 10px 0 4px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.remedies small {
  display: block;
}
.remedies li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.remedies button,
.turn {
  color: var(--copper);
  font-weight: 600;
  white-space: nowrap;
}
.shut {
  color: var(--caution);
  font-weight: 600;
}
.gaps li {
  padding: 2px 0;
}
@media (max-width: 860px) {
  .pair {
    grid-template-columns: 1fr;
  }
}
</style>
