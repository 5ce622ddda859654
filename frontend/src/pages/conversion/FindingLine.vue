<script setup lang="ts">
/** One finding: its sentence, what else comes of the same cause, and, opened, what it means and what to do. */
import type { Finding } from '@/api/client'
import FindingExplained from '@/pages/conversion/FindingExplained.vue'
import LevelMark from '@/kit/LevelMark.vue'
import { unbroken } from '@/format'
import { useConversion } from '@/stores/conversion'

defineProps<{
  finding: Finding
  others: readonly Finding[]
  opened: boolean
  /** The ids of those whose remedy has its button here. */
  offered: ReadonlySet<string>
}>()
defineEmits<{ toggle: [] }>()
const conversion = useConversion()
</script>

<template>
  <li
    class="grid grid-cols-[14px_minmax(0,1fr)] gap-12 px-0 py-9 border-b border-line"
    :class="finding.level"
    :data-code="finding.code"
  >
    <LevelMark class="mt-3" :level="finding.level" />
    <div>
      <button
        type="button"
        class="bare w-full text-pretty leading-[1.35] hover:underline hover:decoration-line2 hover:underline-offset-[3px]"
        :aria-expanded="opened"
        @click="$emit('toggle')"
      >
        {{ unbroken(finding.headline) }}<em v-if="finding.assumed" class="assumed">assumed</em>
      </button>
      <ul v-if="others.length" class="m-0 mt-4 p-0 list-none text-small" aria-label="Of the same cause">
        <li v-for="other in others" :key="other.id" class="flex gap-6 mt-3" :data-code="other.code">
          <LevelMark class="mt-2 shrink-0" :level="other.level" :size="11" />
          <span>{{ unbroken(other.headline) }}<em v-if="other.assumed" class="assumed">assumed</em></span>
        </li>
      </ul>
      <FindingExplained v-if="opened" :findings="[finding, ...others]" />
      <button
        v-for="one in [finding, ...others].filter(({ id, remedy }) => remedy && offered.has(id))"
        :key="one.id"
        type="button"
        class="mt-6 mr-6 px-9 py-2 border border-copper rounded bg-transparent text-copper font-semibold cursor-pointer hover:bg-copperwash"
        @click="conversion.apply(one.remedy!)"
      >
        {{ one.remedy!.label }}
      </button>
    </div>
  </li>
</template>
