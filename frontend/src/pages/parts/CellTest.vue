<script setup lang="ts">
/** An electronic load tests one of the maker's own cells: begun, watched for hours, stopped, kept. */
import { useIntervalFn, useLocalStorage } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'

import { api, sentenceOf, type CellTestTold, type OwnPart } from '@/api/client'
import { useInventory } from '@/stores/inventory'
import { t } from '@/words'

const props = defineProps<{ part: OwnPart }>()

const inventory = useInventory()
const address = useLocalStorage('pocket-spark-load', '')
const supply = useLocalStorage('pocket-spark-load-supply', '')
const thermometer = useLocalStorage('pocket-spark-load-thermometer', '')
/** Its number on the server: it goes on for hours, and any page of any device finds it again. */
const run = ref(0)
const PLACES = [
  { name: t('Address of the load'), address, example: '192.168.1.21:5025' },
  { name: t('of a supply'), address: supply, example: 'none' },
  { name: t('of a thermometer'), address: thermometer, example: 'none' },
]
const told = shallowRef<CellTestTold>()
const problem = ref('')
const goesOn = computed(() => !!run.value && !told.value?.finished)

const { pause, resume } = useIntervalFn(() => void look(), 1000, {
  immediate: false,
  immediateCallback: true,
})
onMounted(async () => {
  const { data } = await api.GET('/api/instruments/cell-test', {
    params: { query: { part_id: props.part.id } },
  })
  run.value = data?.run_id ?? 0
  if (run.value) resume()
})

async function start(): Promise<void> {
  problem.value = ''
  told.value = undefined
  const at = { address: address.value, supply: supply.value, thermometer: thermometer.value }
  const body = { part_id: props.part.id, ...at, speed_up: 1 }
  const { data, error } = await api.POST('/api/instruments/cell-test', { body })
  if (error) problem.value = sentenceOf(error)
  run.value = data?.id ?? 0
  if (data) resume()
}

async function look(): Promise<void> {
  const params = { path: { run_id: run.value }, query: { part_id: props.part.id } }
  const { data, error } = await api.GET('/api/instruments/cell-test/{run_id}', { params })
  if (error) run.value = 0
  told.value = data
  if (!data || data.finished) pause()
}

async function stop(): Promise<void> {
  await api.DELETE('/api/instruments/live/{run_id}', { params: { path: { run_id: run.value } } })
}

async function keep(): Promise<void> {
  const params = { path: { run_id: run.value } }
  const { error } = await api.POST('/api/instruments/cell-test/{run_id}/kept', {
    params,
    body: { part_id: props.part.id },
  })
  problem.value = error ? sentenceOf(error) : ''
  if (error) return
  run.value = 0
  told.value = undefined
  await inventory.load()
}
</script>

<template>
  <details class="col-start-2 col-end-[-1] narrow:col-start-1" :open="goesOn">
    <summary class="text-ink2 text-small cursor-pointer">Test it with an electronic load</summary>
    <div class="grid gap-8 pt-6 max-w-560">
      <p class="m-0">
        Charge it full and let it rest an hour. Load on its tabs, plus to plus, on a surface that does not
        burn. It rests, gives a pulse, then its whole charge at a fifth an hour: some six hours. Somebody
        stays near. A supply on the same tabs charges it back to half; a probe on its flat ends the test where
        it gets hot.
      </p>
      <form v-if="!goesOn" class="grid gap-6 justify-items-start" @submit.prevent="start">
        <label v-for="place in PLACES" :key="place.name" class="flex items-center gap-8"
          ><span class="w-150">{{ place.name }}</span>
          <input
            v-model.trim="place.address.value"
            class="text-input w-200 px-9"
            :placeholder="place.example"
            maxlength="200"
            autocomplete="off"
            spellcheck="false"
        /></label>
        <ElButton native-type="submit" :disabled="!address" plain>Begin with a rest</ElButton>
      </form>
      <button
        v-else
        type="button"
        class="bare justify-self-start min-w-180 min-h-48 rounded bg-stop text-paper text-large font-bold text-center"
        @click="stop"
      >
        Stop, off
      </button>
      <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
      <template v-if="told">
        <p class="m-0" role="status">
          {{ told.says }} <template v-if="told.celsius && goesOn">It is at {{ told.celsius.text }}.</template>
        </p>
        <p v-if="told.failure" class="error-line" role="alert">{{ told.failure }}</p>
        <p v-for="remark in told.remarks" :key="remark" class="m-0 quiet">{{ remark }}</p>
        <p class="m-0">
          <template v-if="told.rest_v">Rests at {{ told.rest_v.text }}. </template>
          <template v-if="told.r_soon_ohm">{{ told.r_soon_ohm.text }} after a second</template
          ><template v-if="told.r_minute_ohm">, {{ told.r_minute_ohm.text }} after a minute</template
          ><template v-if="told.r_soon_ohm">. </template>
          <b v-if="told.capacity_ah">It holds {{ told.capacity_ah.text }}.</b>
        </p>
        <p v-if="told.simulated" class="m-0 quiet">A stand-in: nothing of it is kept.</p>
        <ElButton v-if="told.may_be_kept" class="justify-self-start" type="primary" plain @click="keep"
          >Keep it with this cell</ElButton
        >
      </template>
    </div>
  </details>
</template>
