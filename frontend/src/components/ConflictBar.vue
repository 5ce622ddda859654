<script setup lang="ts">
/** Two windows on one conversion: says so, and loses neither side. */
import { useConversion } from '@/stores/conversion'

const conversion = useConversion()
</script>

<template>
  <div v-if="conversion.conflict" class="bar" role="alert">
    <span
      ><b>Changed in another window.</b> Your last change is on this screen only. Keep it on top of theirs
      (theirs stays one undo away), or take theirs.</span
    >
    <ElButton type="primary" @click="conversion.keepMine">Keep mine</ElButton>
    <ElButton @click="conversion.takeTheirs">Take theirs</ElButton>
  </div>
  <div v-else-if="conversion.problem" class="bar" role="alert">
    <span>{{ conversion.problem }}</span>
    <ElButton @click="conversion.save">Try again</ElButton>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
  padding: 8px 20px;
  background: var(--copperwash);
  border-bottom: 1px solid var(--copper2);
}
.bar span {
  flex: 1 1 24em;
}
</style>
