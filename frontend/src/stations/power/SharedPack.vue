<script setup lang="ts">
/** One pack for several gadgets: each with its figures and its verdict, and what is to be written on the box. */
import { computed, onMounted, ref } from 'vue'

import { api, sentenceOf, type SharedPack } from '@/api/client'
import { useQuestion } from '@/composables/useQuestion'
import NameField from '@/kit/NameField.vue'
import QuantityField from '@/kit/QuantityField.vue'
import { useConversion } from '@/stores/conversion'
import { t } from '@/words'

const conversion = useConversion()
const path = computed(() => `${conversion.buildPath}.also_feeds`)
const rows = computed(() => conversion.build?.also_feeds ?? [])
const isPack = computed(() => conversion.build?.style === 'stand_alone' || rows.value.length > 0)
const pack = useQuestion<SharedPack>(async (body) =>
  isPack.value && conversion.build?.cell ? await api.POST('/api/questions/shared-pack', { body }) : undefined,
)
const { late } = pack
const said = (id: string | undefined) => pack.value?.served.find((one) => one.id === id)
const add = () => conversion.addRow(path.value, { name: t('another gadget') })

const others = ref<{ id: number; name: string }[]>([])
const problem = ref('')
onMounted(async () => {
  const { data } = await api.GET('/api/projects', { params: { query: { most: 200 } } })
  others.value = (data ?? []).filter((line) => line.id !== conversion.stored?.id)
})
async function fromShelf(event: Event): Promise<void> {
  const select = event.target as HTMLSelectElement
  const id = Number(select.value)
  select.value = ''
  const params = { path: { project_id: id } }
  const { data, error } = await api.GET('/api/questions/fed-gadget/{project_id}', { params })
  problem.value = error ? sentenceOf(error) : ''
  if (data) await conversion.addRow(path.value, { ...data, id: undefined })
}
</script>

<template>
  <section v-if="isPack" aria-label="One pack for several gadgets" :class="{ late }">
    <h2>What else is clipped to this pack</h2>
    <p v-if="pack" class="m-0 mb-6">
      It gives <b>{{ pack.least_v.text }} to {{ pack.most_v.text }}</b
      >, {{ pack.most_a.text }} at most.
    </p>
    <div
      v-for="(row, at) in rows"
      :key="row.id"
      role="group"
      :aria-label="row.name"
      class="grid gap-4 mb-12 pl-10 border-l-3"
      :class="{
        'border-pass': said(row.id)?.serves === true,
        'border-caution': said(row.id)?.serves === false,
        'border-line2': said(row.id)?.serves == null,
      }"
    >
      <p class="m-0">
        <NameField :path="`${path}.${at}.name`" label="Called" />
        <template v-if="said(row.id)?.serves">{{ said(row.id)?.hours?.text }} of use.</template>
        <template v-else-if="said(row.id)?.serves === false"><b>Never.</b> {{ said(row.id)?.why }}</template>
        <template v-else-if="said(row.id)">{{ said(row.id)?.why }}</template>
      </p>
      <div class="grid grid-cols-3 gap-x-24 gap-y-4 narrow:grid-cols-1">
        <QuantityField :path="`${path}.${at}.v_run_min`" unit="V" label="Lowest volts" no-basis />
        <QuantityField :path="`${path}.${at}.v_abs_max`" unit="V" label="Highest volts" no-basis />
        <QuantityField :path="`${path}.${at}.current_a`" unit="mA" label="Draws" no-basis />
        <QuantityField :path="`${path}.${at}.peak_a`" unit="mA" label="Peak" placeholder="none" no-basis />
        <QuantityField :path="`${path}.${at}.hours_per_day`" unit="h" label="Hours a day" no-basis />
      </div>
      <p v-if="conversion.refusalAt(`${path}.${at}`)" class="error-line" role="alert">
        {{ conversion.refusalAt(`${path}.${at}`) }}
      </p>
      <button
        type="button"
        class="bare link-button justify-self-start"
        @click="conversion.removeRow(path, at)"
      >
        Take {{ row.name }} off
      </button>
    </div>
    <div class="flex flex-wrap items-center gap-16">
      <button type="button" class="bare text-copper font-semibold" @click="add">+ another gadget</button>
      <select
        v-if="others.length"
        class="text-input w-200 px-9"
        aria-label="A gadget of the shelf"
        @change="fromShelf"
      >
        <option value="">from the shelf …</option>
        <option v-for="one in others" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
    </div>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <template v-if="pack">
      <h3 class="mx-0 mt-12 mb-4">To be written on the pack</h3>
      <ul class="inline-block m-0 px-14 py-10 list-none border border-ink bg-sheet font-mono">
        <li v-for="line in pack.label" :key="line">{{ line }}</li>
      </ul>
    </template>
  </section>
</template>
