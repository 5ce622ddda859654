<script setup lang="ts">
/** Survey: what it takes, what it draws, and between which volts it works. */
import { computed } from 'vue'

import InTurn from '@/kit/InTurn.vue'
import BasisMark from '@/kit/BasisMark.vue'
import FrontEndFields from '@/stations/survey/FrontEndFields.vue'
import LoadField from '@/components/LoadField.vue'
import ModesTable from '@/stations/survey/ModesTable.vue'
import ChargingGaugeShellFields from '@/stations/survey/ChargingGaugeShellFields.vue'
import WhereItLives from '@/stations/survey/WhereItLives.vue'
import PhotoPanel from '@/stations/survey/PhotoPanel.vue'
import PurposeQuestion from '@/stations/survey/PurposeQuestion.vue'
import QuantityField from '@/kit/QuantityField.vue'
import SupplyFields from '@/stations/survey/SupplyFields.vue'
import TagsField from '@/stations/survey/TagsField.vue'
import VoltageRuler from '@/stations/survey/VoltageRuler.vue'
import { plain } from '@/format'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'
import { t } from '@/words'

const conversion = useConversion()
const reference = useReference()

const gadget = computed(() => conversion.document!.gadget)
const survey = computed(() => conversion.assessment?.survey)
const recipe = computed(() => conversion.build?.recipe)
const summary = computed(() => {
  if (!survey.value) return ''
  const behind = reference.labelOf(reference.tables?.front_ends, gadget.value.front_end ?? '')
  return t('{supply}; they feed: {behind}.', { supply: survey.value.supply, behind })
})
</script>

<template>
  <div class="survey">
    <h1>What it takes, what it draws</h1>
    <p class="quiet">{{ summary }}</p>

    <p v-if="recipe" class="next">
      After a recipe by {{ recipe.author || 'somebody unnamed'
      }}{{ recipe.unchanged ? '' : ', changed by somebody else since'
      }}{{ recipe.signed_by ? `, signed ${recipe.signed_by}` : '' }}. What was measured there is marked as
      guessed here: measure it in yours.
    </p>
    <ul v-if="recipe?.went_wrong?.length" class="quiet" aria-label="What went wrong there">
      <li v-for="one in recipe.went_wrong" :key="one">{{ one }}</li>
    </ul>
    <PurposeQuestion />
    <p v-if="!conversion.build?.cell && gadget.modes?.length" class="next">
      Surveyed far enough:
      <RouterLink :to="`/conversion/${conversion.stored?.id}/proposals`"
        >look at what could be built</RouterLink
      >
      before any part is picked.
    </p>

    <h2>What powers it today</h2>
    <SupplyFields />

    <InTurn>
      <div
        class="columns grid grid-cols-[minmax(0,5fr)_minmax(0,7fr)] gap-y-8 gap-x-32 mt-14 narrow:grid-cols-1"
      >
        <section class="flex flex-col gap-7" aria-label="Front end and window">
          <h2>What the batteries feed</h2>
          <FrontEndFields />
          <QuantityField
            path="gadget.window.v_run_min"
            unit="V"
            label="Lowest volts it works at"
            empty="inferred"
            :placeholder="survey && plain(survey.window.v_run_min.value, 3)"
          />
          <QuantityField
            path="gadget.window.v_start_min"
            unit="V"
            label="Lowest volts it starts at"
            empty="inferred"
            :placeholder="survey && plain(survey.window.v_start_min.value, 3)"
          />
          <QuantityField
            path="gadget.window.v_abs_max"
            unit="V"
            label="Highest volts it stands"
            empty="inferred"
            :placeholder="survey && plain(survey.window.v_abs_max.value, 3)"
          />
          <p v-if="conversion.refusalAt('gadget.window')" class="error-line" role="alert">
            {{ conversion.refusalAt('gadget.window') }}
          </p>
        </section>
        <section aria-label="What it draws">
          <h2>What it draws</h2>
          <LoadField />
          <ModesTable />
        </section>
      </div>

      <template v-if="survey">
        <h2>
          Voltage ruler
          <span class="inline-flex items-center gap-5 ml-10 font-normal"
            >works from {{ survey.window.v_run_min.text }} <BasisMark :basis="survey.window.min_basis" /> to
            {{ survey.window.v_abs_max.text }} <BasisMark :basis="survey.window.max_basis"
          /></span>
        </h2>
        <VoltageRuler :bands="survey.ruler" :window="survey.window" />
      </template>
    </InTurn>

    <InTurn>
      <WhereItLives />
      <ChargingGaugeShellFields />
      <PhotoPanel />
      <TagsField />
      <label>
        <h2>Notes, for the sheet</h2>
        <textarea
          class="text-input w-full h-auto px-9 py-6"
          rows="3"
          maxlength="10000"
          :value="conversion.document!.notes ?? ''"
          @input="conversion.edit('notes', ($event.target as HTMLTextAreaElement).value)"
        />
      </label>
    </InTurn>
  </div>
</template>

<style scoped>
h2 {
  margin: 16px 0 6px;
}
.columns h2 {
  margin-top: 0;
}
</style>
