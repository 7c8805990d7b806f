<script setup lang="ts">
import ProgressBar from '../shed/ProgressBar.vue'
import { count } from '../shed/units'
import type { Sent } from './useSending'

/** How far the files of a desktop have come. */
defineProps<{ sent: Sent; share: number }>()
defineEmits<{ halt: [] }>()
</script>

<template>
  <div class="mt-3">
    <p class="figure" role="status">
      {{ count(sent.files) }} of {{ count(sent.of) }} files
      <span class="block truncate text-sm text-slate">{{ sent.name }}</span>
    </p>
    <ProgressBar class="mt-1" :share="share" title="Bringing files" />
    <button type="button" class="plain mt-2" @click="$emit('halt')">Halt</button>
  </div>
</template>
