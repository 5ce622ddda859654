<script setup lang="ts">
/** The code that lets a phone in, and the devices that were let in before. */
import { onMounted, ref, shallowRef } from 'vue'

import { api, sentenceOf, type PairedDevice, type PairingOffer } from '@/api/client'
import { dayOfMonth } from '@/format'
import TypedInput from '@/kit/TypedInput.vue'

const offer = shallowRef<PairingOffer>()
const devices = shallowRef<PairedDevice[]>([])
const problem = ref('')

async function load(): Promise<void> {
  const [pairing, paired] = await Promise.all([api.GET('/api/pairing'), api.GET('/api/devices')])
  offer.value = pairing.data
  devices.value = paired.data ?? []
  problem.value = pairing.error ? sentenceOf(pairing.error) : ''
}
onMounted(load)

async function change(device: PairedDevice, changed: Partial<PairedDevice>): Promise<void> {
  const params = { path: { device_id: device.id } }
  const { name, reads_only } = { ...device, ...changed }
  const { error } = await api.PUT('/api/devices/{device_id}', { params, body: { name, reads_only } })
  await load()
  problem.value = error ? sentenceOf(error) : ''
}

async function revoke(device: PairedDevice): Promise<void> {
  await api.DELETE('/api/devices/{device_id}', { params: { path: { device_id: device.id } } })
  await load()
}
const picture = (svg: string) => `data:image/svg+xml,${encodeURIComponent(svg)}`
</script>

<template>
  <section aria-labelledby="devices">
    <h2 id="devices">Phones and other computers</h2>
    <p v-if="problem" class="error-line" role="alert">{{ problem }}</p>
    <p v-else-if="offer && !offer.address" class="quiet">
      Pocket Spark answers this computer only. Start it with <b>./spark serve --lan</b> to pair a phone on
      your network: its camera then reads a code here.
    </p>
    <div v-else-if="offer" class="offer flex flex-wrap items-center gap-y-8 gap-x-20">
      <img :src="picture(offer.qr_svg)" alt="QR code of the pairing address" width="180" height="180" />
      <p class="flex-[1_1_260px]">
        Point the phone's camera here, or open <b>{{ offer.address }}/pair</b> on it and type
        <strong class="text-title font-mono font-semibold [letter-spacing:0.08em]">{{ offer.code }}</strong>.
        The code is good once, for ten minutes. The browser will say that it does not know the certificate: it
        is this computer's own. Both screens must show the same six words: <b>{{ offer.fingerprint }}</b>.
        <button type="button" class="bare link-button" @click="load">Show a fresh code</button>
      </p>
    </div>
    <dl class="ruled-list">
      <div v-for="device in devices" :key="device.id">
        <dt>
          <TypedInput
            class="text-input"
            :value="device.name"
            :aria-label="`Name of ${device.name}`"
            maxlength="60"
            @settle="change(device, { name: $event })"
          />
        </dt>
        <dd class="flex flex-wrap items-center gap-x-16 gap-y-2">
          <span class="quiet"
            >paired {{ dayOfMonth(device.paired_at) }}, last seen {{ dayOfMonth(device.seen_at) }}, until
            {{ dayOfMonth(device.expires_at) }}</span
          >
          <ElCheckbox
            :model-value="device.reads_only"
            @change="(only) => change(device, { reads_only: Boolean(only) })"
          >
            It may only read
          </ElCheckbox>
          <button type="button" class="bare link-button" @click="revoke(device)">
            Let {{ device.name }} in no more
          </button>
        </dd>
      </div>
    </dl>
  </section>
</template>

<style scoped>
.offer img {
  background: #fff;
}
</style>
