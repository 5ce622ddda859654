<script setup lang="ts">
/** A field whose text is taken when it is left. What is typed stays meanwhile, whatever comes anew around it. */
import { ref, watch } from 'vue'

const props = defineProps<{ value: string | number }>()
const emit = defineEmits<{ settle: [text: string] }>()

const typed = ref<string>()
let isSettled = true

function type(event: Event): void {
  typed.value = (event.target as HTMLInputElement).value
  isSettled = false
}
function settle(): void {
  isSettled = true
  if (typed.value !== undefined) emit('settle', typed.value)
}
// What was refused stays in its field; what was taken is shown as it is stored.
watch(
  () => props.value,
  () => {
    if (isSettled) typed.value = undefined
  },
)
</script>

<template>
  <input :value="typed ?? value" @input="type" @change="settle" />
</template>
