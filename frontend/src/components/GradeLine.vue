<script setup lang="ts">
/** Where a used cell stands: the word on its box, what each reading says, and what to do next. */
import type { Grade } from '@/api/client'
import LevelMark from '@/kit/LevelMark.vue'

defineProps<{ grade: Grade }>()
</script>

<template>
  <div class="grade">
    <span :class="['word', grade.level]">{{ grade.word }}</span>
    <span v-if="grade.r_ohm" class="quiet small">{{ grade.r_ohm.text }} by two loads</span>
    <p class="mt-4"><b>Next:</b> {{ grade.next_step }}</p>
    <p v-if="grade.life_left" class="m-0 mt-2">{{ grade.life_left }}</p>
    <ul v-if="grade.judgements.length" class="mx-0 mt-4 mb-0 p-0 list-none">
      <li v-for="said in grade.judgements" :key="said.headline" :title="said.working">
        <LevelMark :level="said.level" :size="11" /> {{ said.headline }}
      </li>
    </ul>
  </div>
</template>

<style scoped>
.grade {
  font-size: 13px;
}
.word {
  display: inline-block;
  margin-right: 8px;
  padding: 0 8px;
  border: 1.5px solid currentColor;
  border-radius: 2px;
  font-weight: 700;
  color: var(--pass);
}
.word.stop {
  color: var(--stop);
}
.word.caution {
  color: var(--caution);
}
.word.note {
  color: var(--note);
}
</style>
