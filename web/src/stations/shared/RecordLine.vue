<script setup lang="ts">
/** What became of what was written at a station: refused with a sentence, or waiting for the shed. */
defineProps<{ problem: string; waits: boolean }>()
</script>

<template>
  <p v-if="waits" class="font-bold text-slate" role="status">
    … The shed does not answer. What you ticked and wrote is kept in this browser and goes over by
    itself.
  </p>
  <p v-else-if="problem" class="text-brick" role="alert">✕ {{ problem }}</p>
</template>
