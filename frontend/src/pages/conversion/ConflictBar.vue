<script setup lang="ts">
/** Two windows on one conversion: says so, and loses neither side. */
import { computed } from 'vue'

import { useConversion } from '@/stores/conversion'

const conversion = useConversion()
const conflict = computed(() => conversion.conflict.replace(/^./, (first) => first.toUpperCase()))
</script>

<template>
  <div
    v-if="conversion.conflict"
    class="flex flex-wrap items-center gap-y-6 gap-x-12 px-20 py-8 border-b border-copper2 bg-copperwash"
    role="alert"
  >
    <span class="flex-[1_1_24em]"
      ><b>{{ conflict }}.</b> Your last change is on this screen only. Keep yours there, with everything else
      they did (their version stays one undo away), or take theirs.</span
    >
    <ElButton type="primary" @click="conversion.keepMine">Keep mine</ElButton>
    <ElButton @click="conversion.takeTheirs">Take theirs</ElButton>
  </div>
  <div
    v-else-if="conversion.problem"
    class="flex flex-wrap items-center gap-y-6 gap-x-12 px-20 py-8 border-b border-copper2 bg-copperwash"
    role="alert"
  >
    <span class="flex-[1_1_24em]">{{ conversion.problem }}</span>
    <ElButton @click="conversion.save">Try again</ElButton>
  </div>
</template>
