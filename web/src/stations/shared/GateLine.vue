<script setup lang="ts">
import type { Job } from '../../api/client'

/** What still holds the power (H-17), said again wherever a step would put it on. */
defineProps<{ job: Job }>()
</script>

<template>
  <section v-if="job.gate" class="sheet border-l-4 border-l-brick p-4" role="alert">
    <p class="font-bold text-brick">▲ {{ job.gate }}</p>
    <RouterLink class="text-river underline" :to="`/jobs/${job.id}/1`"
      >to the points before power</RouterLink
    >
  </section>
</template>
