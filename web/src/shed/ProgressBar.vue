<script setup lang="ts">
/** How much of something is done, in percent. */
defineProps<{ share: number; title: string }>()
</script>

<template>
  <div
    class="h-3 overflow-hidden rounded border border-rule bg-paper"
    role="progressbar"
    :aria-label="title"
    :aria-valuenow="share"
    aria-valuemin="0"
    aria-valuemax="100"
  >
    <div class="h-full bg-lampfill" :style="{ width: `${share}%` }" />
  </div>
</template>
