<script setup lang="ts">
/** What a log may teach the plan: each figure taken at a click, with what was foretold before kept beside it. */
import type { Foretold, Lesson } from '@/api/client'
import { useConversion } from '@/stores/conversion'

const props = defineProps<{ lessons: Lesson[]; foretold: Foretold | null; from: string }>()
const emit = defineEmits<{ adopted: [] }>()
const conversion = useConversion()

function adopt(lesson: Lesson): void {
  const at = `${new Date().toISOString().slice(0, 19)}Z`
  const adopted = `${lesson.what} ${lesson.text}, from ${props.from}`.slice(0, 300)
  conversion.change((document) => {
    const build = document.builds[conversion.buildIndex]!
    if (props.foretold) {
      build.forecasts = [...(build.forecasts ?? []), { at, adopted, before: props.foretold }]
    }
    document.logbook = [
      ...(document.logbook ?? []),
      { at, kind: 'measurement', station: 'prove', photo_id: null, text: `adopted ${adopted}` },
    ]
  })
  conversion.apply({ label: lesson.what, edits: lesson.edits })
  emit('adopted')
}
const known = (lesson: Lesson) =>
  lesson.edits.every(({ path, value }) => JSON.stringify(conversion.valueOf(path)) === JSON.stringify(value))
</script>

<template>
  <ul class="lessons">
    <li v-for="lesson in lessons" :key="lesson.what">
      <span
        >{{ lesson.what }} <b>{{ lesson.text }}</b> <small>{{ lesson.off }}</small></span
      >
      <span v-if="known(lesson)" class="quiet">taken</span>
      <button v-else type="button" class="bare" @click="adopt(lesson)">Take it as measured</button>
    </li>
  </ul>
</template>

<style scoped>
ul {
  margin: 0 0 8px;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
small {
  display: block;
}
button {
  color: var(--copper);
  font-weight: 600;
  white-space: nowrap;
}
</style>
