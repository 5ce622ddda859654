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
  <section class="lock" aria-label="Why the case stays shut">
    <h2>{{ lock.final ? 'This is not to be built' : 'The case stays shut' }}</h2>
    <ul>
      <li v-for="line in lock.because" :key="line"><LevelMark level="stop" :size="13" /> {{ line }}</li>
    </ul>
    <form v-if="!lock.final" @submit.prevent="unlock">
      <label
        >I build it all the same, because
        <input v-model="reason" maxlength="300" aria-label="Reason to build in spite of a stop" />
      </label>
      <ElButton native-type="submit" :disabled="!reason.trim()">Unlock the steps</ElButton>
    </form>
    <p v-else class="quiet">No reason opens it: what it is for forbids it.</p>
  </section>
</template>

<style scoped>
.lock {
  margin: 8px 0 14px;
  padding: 10px 14px;
  border-left: 5px solid var(--stop);
  background: var(--sheet);
}
ul {
  margin: 4px 0 8px;
  padding: 0;
  list-style: none;
}
form {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 8px;
}
label {
  flex: 1;
  min-width: 220px;
}
input {
  width: 100%;
  height: 36px;
  padding: 0 8px;
  border: 1px solid var(--line2);
  background: var(--paper);
  color: var(--ink);
}
</style>
