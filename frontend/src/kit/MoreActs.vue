<script setup lang="ts" generic="T extends string">
/** A button that opens a few acts below it: the browser's own popover closes them and gives the focus back. Nothing of
 * it is measured until it is opened. */
import { nextTick, ref, useId } from 'vue'

import { unzoomed } from '@/composables/useTextSize'

defineOptions({ inheritAttrs: false })
defineProps<{ acts: readonly { value: T; label: string; disabled?: boolean; current?: boolean }[] }>()
const emit = defineEmits<{ act: [value: T] }>()

const GAP_PX = 4
const id = useId()
const button = ref<HTMLElement>()
const list = ref<HTMLElement>()
const opened = ref(false)

/** Below the button, and not over the edge of the window. */
async function place(event: ToggleEvent): Promise<void> {
  opened.value = event.newState === 'open'
  if (!opened.value) return
  await nextTick()
  const { left, bottom } = button.value!.getBoundingClientRect()
  const { style, offsetWidth } = list.value!
  const free = unzoomed(window.innerWidth) - offsetWidth - GAP_PX
  style.left = `${Math.max(GAP_PX, Math.min(unzoomed(left), free))}px`
  style.top = `${unzoomed(bottom) + GAP_PX}px`
}
function take(value: T): void {
  list.value!.hidePopover()
  emit('act', value)
}
</script>

<template>
  <button ref="button" type="button" v-bind="$attrs" :popovertarget="id"><slot /></button>
  <div
    :id="id"
    ref="list"
    popover
    class="m-0 p-4 max-w-300 max-h-[80vh] overflow-y-auto framed bg-sheet text-ink text-body"
    @toggle="place"
  >
    <button
      v-for="one in opened ? acts : []"
      :key="one.value"
      type="button"
      class="bare block w-full min-h-28 px-10 py-4 border-l-3 border-transparent text-left hover:bg-sunk disabled:text-ink3 current:border-copper current:font-semibold narrow:min-h-44"
      :class="{ 'is-current': one.current }"
      :aria-current="one.current || undefined"
      :disabled="one.disabled"
      @click="take(one.value)"
    >
      {{ one.label }}
    </button>
  </div>
</template>
