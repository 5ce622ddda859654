<script setup lang="ts">
/** Why the case stays shut, and the reason with which it may be opened all the same. */
import { ref } from 'vue'

import type { Procedure } from '@/api/client'
import LevelMark from '@/kit/LevelMark.vue'
import { useConversion } from '@/stores/conversion'

defineProps<{ lock: NonNullable<Procedure['lock']> }>()
const conversion = useConversion()
const reason = ref('')
const unlock = () =>
  reason.value.trim() && conversion.edit(`${conversion.buildPath}.record.built_although`, reason.value)
</script>

<template>
  <section
    class="lock mx-0 mt-8 mb-14 px-14 py-10 border-l-5 border-stop bg-sheet"
    aria-label="Why the case stays shut"
  >
    <h2>{{ lock.final ? 'This is not to be built' : 'The case stays shut' }}</h2>
    <ul class="mx-0 mt-4 mb-8 p-0 list-none">
      <li v-for="line in lock.because" :key="line"><LevelMark level="stop" :size="13" /> {{ line }}</li>
    </ul>
    <form v-if="!lock.final" class="flex flex-wrap items-end gap-8" @submit.prevent="unlock">
      <label class="flex-1 min-w-220"
        >I build it all the same, because
        <input
          v-model="reason"
          class="w-full h-36 px-8 py-0 border border-line2 bg-paper text-ink"
          maxlength="300"
          aria-label="Reason to build in spite of a stop"
        />
      </label>
      <ElButton native-type="submit" :disabled="!reason.trim()">Unlock the steps</ElButton>
    </form>
    <p v-else class="quiet">No reason opens it: what it is for forbids it.</p>
  </section>
</template>
