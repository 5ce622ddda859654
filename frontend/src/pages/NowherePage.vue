<script setup lang="ts">
/** An address that leads nowhere says so. */
import { onMounted } from 'vue'
import { useRoute } from 'vue-router'

import PageFrame from '@/kit/PageFrame.vue'
import { t } from '@/words'

const route = useRoute()
onMounted(() => (document.title = t('Nothing here · Pocket Spark')))
</script>

<template>
  <PageFrame title="Nothing is at this address" back="the shelf" to="/" :width="720">
    <p>
      <code>{{ route.path }}</code> is no page of Pocket Spark. If a link brought you here, it is an old one;
      your conversions are all on <RouterLink to="/">the shelf</RouterLink>.
    </p>
  </PageFrame>
</template>
